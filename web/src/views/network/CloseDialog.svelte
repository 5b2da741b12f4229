<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { day, plural, word } from '../../parts/format';
  import { useDoing } from '../../state/doing';

  interface Props {
    open: boolean;
    code: string;
    name: string;
    /** the next day on which it sends */
    today: string;
  }
  let { open = $bindable(), code, name, today }: Props = $props();

  const run = useDoing();
  let first = $state(untrack(() => today));
  let last = $state(untrack(() => today));
  let reason = $state('');
  let lane = $state('');
  const lanes = createQuery(() => ({
    queryKey: ['network', 'lanes', code],
    queryFn: () => get(api.GET('/api/network/nodes/{code}/lanes', { params: { path: { code } } }))
  }));
  const only = $derived(lanes.data?.find((l) => String(l.id) === lane));
  const sound = $derived(first !== '' && last >= first);
  const affected = createQuery(() => ({
    queryKey: ['network', 'affected', code, lane, first, last],
    enabled: sound,
    queryFn: () =>
      get(
        api.GET('/api/network/closures/affected', {
          params: { query: { node: code, lane: only?.id, first, last } }
        })
      )
  }));

  async function close(event: SubmitEvent) {
    event.preventDefault();
    await run(
      get(
        api.POST('/api/network/closures', {
          body: { node: code, lane: only?.id ?? null, first, last, reason }
        })
      ),
      `${name} sends nothing${only ? ` by ${only.carrier} ${only.service} to ${word(only.zone)}` : ''} from ${day(first)} to ${day(last)}`
    );
    open = false;
  }
</script>

<Dialog bind:open title="Close {name}">
  <form class="space-y-3" onsubmit={close}>
    <div class="flex gap-3">
      <label class="text-soft"
        >From<input
          class="field mt-1 block text-ink"
          type="date"
          required
          bind:value={first}
          data-autofocus
        /></label
      >
      <label class="text-soft"
        >To<input
          class="field mt-1 block text-ink"
          type="date"
          min={first}
          required
          bind:value={last}
        /></label
      >
    </div>
    <label class="block text-soft"
      >What<select class="field mt-1 block w-full text-ink" bind:value={lane}
        ><option value="">all of it</option>{#each lanes.data ?? [] as l (l.id)}<option value={String(l.id)}
            >only {l.carrier} {l.service} to {word(l.zone)}</option
          >{/each}</select
      ></label
    >
    <label class="block text-soft"
      >Why<input
        class="field mt-1 block w-full text-ink"
        maxlength="200"
        required
        bind:value={reason}
      /></label
    >
    <div aria-live="polite">
      {#if affected.isError}<p class="text-madder">{affected.error.message}</p>
      {:else if affected.data?.length}
        <p>
          {plural(affected.data.length, 'consignment waits', 'consignments wait')} there to leave on
          {first === last ? 'that day' : 'those days'}. They stay until you send them elsewhere:
        </p>
        <ul class="mt-1 max-h-40 overflow-y-auto">
          {#each affected.data as a (a.orderId)}
            <li class="flex gap-2 py-0.5">
              <a class="text-verdigris underline" href="#/orders/{a.orderId}?pile=ALL&tab=why" target="_blank"
                >{a.number}</a
              >
              <span class="truncate">{a.buyer}</span>
              <span class="ms-auto text-soft">{plural(a.units, 'unit')}, {day(a.handOver)}</span>
            </li>
          {/each}
        </ul>
      {:else if affected.data}<p class="text-soft">Nothing waits there to leave then.</p>{/if}
    </div>
    <Button main type="submit" disabled={!sound}>Close it</Button>
  </form>
</Dialog>
