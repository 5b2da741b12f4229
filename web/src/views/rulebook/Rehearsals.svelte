<!-- Past orders routed again under the draft: begin one, see how far it is, read what came of it. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, fullMoment, moment, plural } from '../../parts/format';
  import { param, setParams } from '../../state/address';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import RehearsalResult from './RehearsalResult.svelte';

  let { draft }: { draft: boolean } = $props();

  type Head = Schemas['RehearsalStoreHead'];
  const STATES: Record<Head['state'], string> = {
    WAITING: 'waits for its turn',
    RUNNING: 'under way',
    DONE: 'done',
    CANCELLED: 'cancelled',
    FAILED: 'failed'
  };
  const client = useQueryClient();
  const run = useDoing();
  const underWay = (head?: Head) => head?.state === 'WAITING' || head?.state === 'RUNNING';
  const all = createQuery(() => ({
    queryKey: ['rehearsals'],
    queryFn: () => get(api.GET('/api/rulebook/rehearsals'))
  }));
  const id = $derived(Number(param('rehearsal')) || all.data?.[0]?.id || 0);
  const one = createQuery(() => ({
    queryKey: ['rehearsals', id],
    enabled: id > 0,
    queryFn: () => get(api.GET('/api/rulebook/rehearsals/{id}', { params: { path: { id } } })),
    refetchInterval: ({ state }) => (underWay(state.data?.head) ? 700 : false)
  }));
  const head = $derived(one.data?.head);
  const standing = $derived(head?.state);
  // when it ends, so does its line in the list
  $effect(() => {
    if (standing) void client.invalidateQueries({ queryKey: ['rehearsals'], exact: true });
  });
  let days = $state(30);

  async function begin(event: SubmitEvent) {
    event.preventDefault();
    const asked = get(api.POST('/api/rulebook/rehearsals', { body: { days } }));
    await run(asked, '');
    const begun = await asked.catch(() => undefined);
    if (begun) setParams({ rehearsal: String(begun.id), changed: '' });
  }
  async function end(which: Head) {
    const said = underWay(which) ? 'The rehearsal is cancelled' : 'The rehearsal’s result is thrown away';
    await run(get(api.DELETE('/api/rulebook/rehearsals/{id}', { params: { path: { id: which.id } } })), said);
    setParams({ rehearsal: underWay(which) ? String(which.id) : '', changed: '' });
  }
</script>

<div class="flex min-w-0 flex-1 flex-col gap-3 self-start">
  {#if draft && session.mayChange}
    <form class="flex flex-wrap items-center gap-2" onsubmit={begin}>
      <label
        >Route the orders of the last <select class="field h-8 py-0 ps-2 pe-7" bind:value={days}
          >{#each [7, 14, 30, 60, 90] as n (n)}<option value={n}>{n} days</option>{/each}</select
        > again under the draft</label
      >
      <Button main small type="submit" disabled={all.data?.some(underWay)}>Rehearse</Button>
      <span class="text-soft">Nothing of it happens. It goes on if you leave.</span>
    </form>
  {/if}
  {#if all.data?.length}
    <ul class="flex flex-wrap gap-2" aria-label="Rehearsals">
      {#each all.data.slice(0, 8) as h (h.id)}
        <li>
          <button
            type="button"
            class={[
              'rounded-sm border px-2 py-1 text-left',
              h.id === id ? 'border-verdigris bg-verdigris-wash' : 'border-line bg-sheet hover:border-soft'
            ]}
            aria-pressed={h.id === id}
            title={fullMoment(h.at)}
            onclick={() => setParams({ rehearsal: String(h.id), changed: '' })}
            ><b class="font-[600]">Edition {h.edition}</b> on {plural(h.days, 'day')}
            <span class="text-soft">· {moment(h.at)}, {h.by} · {STATES[h.state]}</span></button
          >
        </li>
      {/each}
    </ul>
  {:else if all.data}
    <p class="text-soft">
      {draft
        ? 'A rehearsal says what the draft would have made of the orders you had: cost, parcels, days, and each order that would have gone otherwise, with its grounds.'
        : 'Change a rule or a ladder first: a rehearsal then says what the draft would have made of past orders.'}
    </p>
  {/if}
  {#if all.isError}<p class="text-madder">{all.error.message}</p>{/if}
  {#if one.data && head}
    {#if underWay(head)}
      <div class="flex items-center gap-3" role="status">
        <progress
          class="h-2 w-64 accent-verdigris"
          max={head.orders || 1}
          value={head.done}
          aria-label="Orders routed again"
        ></progress>
        <span class="text-soft"
          >{head.orders ? `${count(head.done)} of ${plural(head.orders, 'order')}` : 'about to begin'}</span
        >
        {#if session.mayChange}<Button small onclick={() => void end(head)}>Cancel it</Button>{/if}
      </div>
    {:else if head.state === 'FAILED'}
      <p class="text-madder">It could not be done: {head.problem}. Nothing was changed; begin it again.</p>
    {:else if one.data.result}
      <RehearsalResult rehearsal={one.data} onforget={() => void end(head)} />
    {/if}
  {/if}
</div>
