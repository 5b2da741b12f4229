<!-- How a node works, and the days on which it hands over more or less than usually. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { count, fullDay } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import MoneyField from '../../parts/MoneyField.svelte';

  interface Props {
    open: boolean;
    code: string;
    currency: string;
  }
  let { open = $bindable(), code, currency }: Props = $props();
  type Terms = Schemas['NodeTermsTerms'];

  const run = useDoing();
  // what is undone after the dialog is gone is still of this node
  const at = untrack(() => code);
  const path = { params: { path: { code: at } } };
  const today = new Date().toISOString().slice(0, 10);
  const kept = createQuery(() => ({
    queryKey: ['network', 'terms', at],
    queryFn: () => get(api.GET('/api/network/nodes/{code}/terms', path))
  }));
  const days = createQuery(() => ({
    queryKey: ['network', 'days', at],
    queryFn: () => get(api.GET('/api/network/nodes/{code}/days', path))
  }));
  const nodes = createQuery(() => ({
    queryKey: ['stock', 'nodes'],
    queryFn: () => get(api.GET('/api/stock/nodes'))
  }));
  let changed = $state<Partial<Terms>>({});
  let problem = $state('');
  let another = $state('');
  let units = $state<number | null>(null);
  const t = $derived(kept.data && { ...kept.data, ...changed });

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const before = kept.data;
    if (!t || !before) return;
    problem = '';
    const put = (body: Terms) => get(api.PUT('/api/network/nodes/{code}/terms', { ...path, body }));
    try {
      await put(t);
      await run(
        Promise.resolve(),
        `${t.name} works so from now on`,
        () => void run(put(before), 'It works as before')
      );
      open = false;
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
  const setDay = (day: string, consignments: number | null) =>
    run(
      get(api.PUT('/api/network/nodes/{code}/days', { ...path, body: { day, consignments } })),
      `${fullDay(day)}: ${consignments === null ? 'no limit' : count(consignments)}`,
      () => void usual(day)
    );
  const usual = (day: string) =>
    run(
      get(api.DELETE('/api/network/nodes/{code}/days/{day}', { params: { path: { code: at, day } } })),
      `${fullDay(day)} is as usual`
    );
  const FIELD = 'field mt-1 block h-8 w-full text-ink';
</script>

<Dialog bind:open title="How {kept.data?.name ?? at} works" wide>
  {#if t}
    <form class="space-y-3" onsubmit={keep}>
      <div class="grid grid-cols-2 gap-3 sm:grid-cols-3">
        <label class="text-soft"
          >Name<input
            class={FIELD}
            required
            maxlength="80"
            value={t.name}
            oninput={(e) => (changed.name = e.currentTarget.value)}
            data-autofocus
          /></label
        >
        <label class="text-soft"
          >Workdays<input
            class={FIELD}
            required
            placeholder="MON-FRI,SUN"
            value={t.workdays}
            oninput={(e) => (changed.workdays = e.currentTarget.value.trim().toUpperCase())}
          /></label
        >
        <label class="text-soft"
          >Time zone<input
            class={FIELD}
            required
            value={t.timeZone}
            oninput={(e) => (changed.timeZone = e.currentTarget.value.trim())}
          /></label
        >
        <label class="text-soft"
          >Cut-off<input
            class={FIELD}
            type="time"
            required
            value={t.cutOff.slice(0, 5)}
            oninput={(e) => (changed.cutOff = e.currentTarget.value)}
          /></label
        >
        <label class="text-soft"
          >Workdays that it needs<input
            class={FIELD}
            type="number"
            min="0"
            max="60"
            required
            value={t.processingDays}
            oninput={(e) => (changed.processingDays = e.currentTarget.valueAsNumber)}
          /></label
        >
        <label class="text-soft"
          >Consignments a day<input
            class={FIELD}
            type="number"
            min="0"
            placeholder="no limit"
            value={t.capacityPerDay ?? ''}
            oninput={(e) =>
              (changed.capacityPerDay = e.currentTarget.value === '' ? null : e.currentTarget.valueAsNumber)}
          /></label
        >
        {#each [['perConsignment', 'consignment'], ['perLine', 'line'], ['perUnit', 'unit']] as const as [key, name] (key)}
          <label class="text-soft"
            >Handling a {name}, {currency}<MoneyField
              class={[FIELD, 'text-right']}
              {currency}
              required
              value={t[key]}
              ontype={(minor) => (changed[key] = minor ?? 0)}
            /></label
          >
        {/each}
        <label class="col-span-2 text-soft"
          >Hazard classes that it may handle<input
            class={FIELD}
            placeholder="none"
            value={t.hazards.join(' ')}
            oninput={(e) => (changed.hazards = e.currentTarget.value.split(/[\s,]+/).filter(Boolean))}
          /></label
        >
        <label class="text-soft"
          >What it sent comes back to<select
            class={FIELD}
            value={t.returnsTo}
            onchange={(e) => (changed.returnsTo = e.currentTarget.value)}
            ><option value={at}>itself</option
            >{#each (nodes.data ?? []).filter((n) => n.code !== at) as n (n.id)}<option value={n.code}
                >{n.name}</option
              >{/each}</select
          ></label
        >
      </div>
      {#if problem}<p class="text-madder" role="alert">{problem}</p>{/if}
      <p class="flex items-center gap-3">
        <Button main type="submit" disabled={!Object.keys(changed).length}>Keep</Button>
        <span class="text-soft">What is planned already stays as it was planned.</span>
      </p>
    </form>
    <section class="border-t border-line pt-2" aria-label="Other days">
      <h3 class="font-[650]">Days with another capacity</h3>
      <ul class="max-h-40 overflow-y-auto">
        {#each days.data ?? [] as d (d.day)}
          <li class="flex h-7 items-center gap-2 border-t border-line">
            <span class="tabular-nums">{fullDay(d.day)}</span>
            <b class="font-[650]">{d.consignments === null ? 'no limit' : count(d.consignments)}</b>
            <button
              type="button"
              class="ms-auto px-1 text-soft hover:text-madder"
              aria-label="{fullDay(d.day)} is as usual"
              onclick={() => void usual(d.day)}>✕</button
            >
          </li>
        {:else}<li class="text-soft">{days.data ? 'Every day is as usual.' : 'Reading…'}</li>{/each}
      </ul>
      <form
        class="mt-1 flex items-center gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void setDay(another, units);
          another = '';
          units = null;
        }}
      >
        <input class="field h-8" type="date" min={today} required aria-label="Day" bind:value={another} />
        <input
          class="field h-8 w-28"
          type="number"
          min="0"
          placeholder="no limit"
          aria-label="Consignments on it"
          bind:value={units}
        />
        <Button small type="submit">Add</Button>
      </form>
    </section>
  {:else}<p class="text-soft">{kept.isError ? kept.error.message : 'Reading…'}</p>{/if}
</Dialog>
