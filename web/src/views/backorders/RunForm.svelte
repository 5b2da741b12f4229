<!-- What a run looks at, and in which order it serves. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { useDoing } from '../../state/doing';
  import { BY, raised, toggled, words, type By, type Settings } from './runs';

  interface Props {
    open: boolean;
    start: { name: string; settings: Settings };
    onseen: (run: number) => void;
  }
  let { open = $bindable(), start, onseen }: Props = $props();

  let name = $state(untrack(() => start.name));
  let s = $state<Settings>(untrack(() => structuredClone($state.snapshot(start.settings)) as Settings));
  let every = $state<number | null>(null);
  let problem = $state('');
  let busy = $state(false);
  const run = useDoing();
  const client = useQueryClient();
  const channels = createQuery(() => ({
    queryKey: ['channels'],
    queryFn: () => get(api.GET('/api/channels'))
  }));
  const out = $derived((Object.keys(BY) as By[]).filter((b) => !s.by.includes(b)));

  async function look(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    problem = '';
    try {
      const made = await get(api.POST('/api/allocation/runs', { body: { name, settings: s } }));
      open = false;
      await client.invalidateQueries({ queryKey: ['allocation'] });
      onseen(made.id);
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    } finally {
      busy = false;
    }
  }
  const keep = () =>
    run(
      get(api.PUT('/api/allocation/plans', { body: { name, settings: s, everyMinutes: every } })),
      every ? `${name} runs by itself` : `${name} is kept`
    );
  const list = (value: string) => words(value);
  const FIELD = 'field mt-1 block h-8 w-full text-ink';
</script>

<Dialog bind:open wide title="An allocation run">
  <form class="space-y-3" onsubmit={look}>
    <label class="block text-soft"
      >Name<input class={FIELD} required maxlength="80" bind:value={name} /></label
    >
    <fieldset>
      <legend class="font-[650]">Who is served first</legend>
      <ol class="mt-1 space-y-1">
        {#each s.by as by, i (by)}
          <li class="flex items-center gap-2">
            <span class="w-4 text-right text-soft">{i + 1}</span><span class="min-w-0 flex-1">{BY[by]}</span>
            {#if i}<Button small aria-label="{BY[by]} counts more" onclick={() => (s.by = raised(s.by, by))}
                >↑</Button
              >{/if}
            {#if s.by.length > 1}<Button
                small
                aria-label="{BY[by]} does not count"
                onclick={() => (s.by = toggled(s.by, by))}>✕</Button
              >{/if}
          </li>
        {/each}
      </ol>
      {#if out.length}<p class="mt-1 flex flex-wrap gap-2">
          {#each out as by (by)}<Button small onclick={() => (s.by = toggled(s.by, by))}>+ {BY[by]}</Button
            >{/each}
        </p>{/if}
    </fieldset>
    <div class="grid grid-cols-2 gap-3">
      <label class="text-soft"
        >It goes<select
          class={[FIELD, 'py-0']}
          bind:value={s.way}
          onchange={() => {
            if (s.way === 'BY_ORDER') s.share = false;
          }}
          ><option value="BY_ORDER">order by order</option><option value="BY_ITEM">item by item</option
          ></select
        ></label
      >
      <label class="text-soft"
        >Orders get<select class={[FIELD, 'py-0']} bind:value={s.parts}
          ><option value="AS_SAID">a part if they may, else all or nothing</option><option value="WHOLE"
            >all or nothing</option
          ><option value="PART">a part, if there is no more</option></select
        ></label
      >
    </div>
    <div class="flex flex-wrap gap-x-5 gap-y-1">
      <label class="flex items-center gap-1.5"
        ><input
          type="checkbox"
          class="size-3.5 rounded-sm border-faint"
          disabled={s.way === 'BY_ORDER'}
          bind:checked={s.share}
        /> share what is scarce within a class</label
      >
      <label class="flex items-center gap-1.5"
        ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={s.earmarks} /> with what
        is set aside for them</label
      >
      <label class="flex items-center gap-1.5"
        ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={s.leadTime} /> the latest
        start counts the days that making takes</label
      >
      <label class="flex items-center gap-1.5"
        ><input
          type="checkbox"
          class="size-3.5 rounded-sm border-faint"
          bind:checked={s.byLot}
          onchange={() => {
            if (!s.byLot) s.lotsExcluded = [];
          }}
        /> name lots and serial numbers</label
      >
      {#if s.byLot}<label class="text-soft"
          >but not <input
            class="field h-7 w-40 text-ink"
            placeholder="lots left out"
            value={s.lotsExcluded.join(' ')}
            onchange={(e) => (s.lotsExcluded = list(e.currentTarget.value))}
          /></label
        >{/if}
    </div>
    <div class="flex flex-wrap gap-x-5 gap-y-1">
      <span class="text-soft">Then</span>
      <label class="flex items-center gap-1.5"
        ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={s.thenRoute} /> route who
        got something</label
      >
      <label class="flex items-center gap-1.5"
        ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={s.recordShort} /> note who
        got nothing as waiting, or as the channel says</label
      >
    </div>
    <details>
      <summary class="cursor-pointer font-[650]"
        >Which lines: {s.scope.channels.length +
          s.scope.nodes.length +
          s.scope.categories.length +
          s.scope.tags.length +
          s.scope.customers.length ||
        s.scope.skuFrom ||
        s.scope.skuTo ||
        s.scope.expression ||
        s.scope.leaveWithin ||
        s.scope.priorityTo
          ? 'some'
          : 'all that is open'}</summary
      >
      <div class="mt-2 grid grid-cols-2 gap-3">
        <label class="text-soft"
          >From nodes (codes)<input
            class={FIELD}
            placeholder="all"
            value={s.scope.nodes.join(' ')}
            onchange={(e) => (s.scope.nodes = list(e.currentTarget.value.toUpperCase()))}
          /></label
        >
        <label class="text-soft"
          >Channel<select
            class={[FIELD, 'py-0']}
            value={s.scope.channels[0] ?? ''}
            onchange={(e) => (s.scope.channels = e.currentTarget.value ? [e.currentTarget.value] : [])}
            ><option value="">every channel</option>{#each channels.data ?? [] as c (c.id)}<option
                value={c.code}>{c.name}</option
              >{/each}</select
          ></label
        >
        <label class="text-soft"
          >Must leave within days<input
            class={FIELD}
            type="number"
            min="0"
            max="366"
            placeholder="any"
            bind:value={s.scope.leaveWithin}
          /></label
        >
        <label class="text-soft"
          >Classes down to<input
            class={FIELD}
            type="number"
            min="1"
            max="9"
            placeholder="all"
            bind:value={s.scope.priorityTo}
          /></label
        >
        <label class="text-soft">SKU from<input class={FIELD} bind:value={s.scope.skuFrom} /></label>
        <label class="text-soft">SKU to<input class={FIELD} bind:value={s.scope.skuTo} /></label>
        <label class="text-soft"
          >Categories<input
            class={FIELD}
            placeholder="all"
            value={s.scope.categories.join(', ')}
            onchange={(e) =>
              (s.scope.categories = e.currentTarget.value
                .split(',')
                .map((c) => c.trim())
                .filter(Boolean))}
          /></label
        >
        <label class="text-soft"
          >Orders tagged<input
            class={FIELD}
            placeholder="any"
            value={s.scope.tags.join(' ')}
            onchange={(e) => (s.scope.tags = list(e.currentTarget.value))}
          /></label
        >
        <label class="text-soft"
          >Buyers’ mail begins with<input
            class={FIELD}
            placeholder="any"
            value={s.scope.customers.join(' ')}
            onchange={(e) => (s.scope.customers = list(e.currentTarget.value))}
          /></label
        >
        <label class="text-soft"
          >Expression (CEL)<input
            class={[FIELD, 'font-mono text-xs']}
            placeholder="value > 10000"
            bind:value={s.scope.expression}
          /></label
        >
      </div>
    </details>
    {#if problem}<p class="text-madder" role="alert">{problem}</p>{/if}
    <p class="flex flex-wrap items-center gap-2">
      <Button main type="submit" disabled={busy}>{busy ? 'Looking…' : 'See who gets what'}</Button>
      <span class="ms-auto flex items-center gap-2 text-soft"
        ><label
          >every <input
            class="field h-7 w-20 text-ink"
            type="number"
            min="5"
            max="10080"
            placeholder="by hand"
            aria-label="Minutes between two runs"
            bind:value={every}
          /> minutes</label
        ><Button small onclick={() => void keep()}>Keep these settings</Button></span
      >
    </p>
  </form>
</Dialog>
