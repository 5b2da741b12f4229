<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { tinykeys } from 'tinykeys';
  import { api, get, type Schemas } from '../../api/client';
  import { count, day, plural, stands } from '../../parts/format';
  import { go, param, setParams } from '../../state/address';
  import { free, toTheList } from '../../state/keys';
  import DueBoard from './DueBoard.svelte';

  const STATES = [
    ['', 'To do'],
    ['PACK', 'To pack'],
    ['HAND_OVER', 'To hand over'],
    ['UNPACK', 'To unpack'],
    ['NOTHING', 'Under way'],
    ['ASK_CARRIER', 'Late on the way']
  ] as const;

  const node = $derived(param('node'));
  const due = $derived(param('due') as Schemas['DispatchBoardCard']['due'] | '');
  const doing = $derived(param('state') as (typeof STATES)[number][0]);
  const board = createQuery(() => ({
    queryKey: ['dispatch', 'board'],
    queryFn: () => get(api.GET('/api/dispatch/board'))
  }));
  const list = createQuery(() => ({
    queryKey: ['dispatch', 'list', node, due, doing],
    queryFn: () =>
      get(
        api.GET('/api/dispatch/consignments', {
          params: { query: { node: node || undefined, due: due || undefined, doing: doing || undefined } }
        })
      )
  }));
  const nodes = $derived(board.data?.nodes ?? []);
  const rows = $derived(list.data ?? []);
  const dueNow = $derived(nodes.reduce((sum, n) => sum + (n.due.OVERDUE ?? 0) + (n.due.TODAY ?? 0), 0));
  const overdue = $derived(nodes.reduce((sum, n) => sum + (n.due.OVERDUE ?? 0), 0));

  let at = $state(0);
  let scanned = $state('');
  let problem = $state('');
  let field = $state<HTMLInputElement>();
  const here = $derived(Math.min(at, rows.length - 1));

  /** A scanned slip opens its consignment at the bench. */
  async function scan(event: SubmitEvent) {
    event.preventDefault();
    problem = '';
    try {
      const card = await get(api.GET('/api/dispatch/find', { params: { query: { number: scanned } } }));
      go(`/dispatch/bench/${card.id}`);
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
      field?.select();
    }
  }

  const move = (by: number) => (event: KeyboardEvent) => {
    if (!free(event)) return;
    event.preventDefault();
    toTheList();
    at = Math.max(0, Math.min(rows.length - 1, here + by));
    document.getElementById(`consignment-${rows[at]?.id}`)?.scrollIntoView({ block: 'nearest' });
  };
  const open = (event: KeyboardEvent) => {
    const row = rows[here];
    if (free(event) && row && !(document.activeElement instanceof HTMLButtonElement))
      go(`/dispatch/bench/${row.id}`);
  };
  $effect(() =>
    tinykeys(window, { j: move(1), k: move(-1), ArrowDown: move(1), ArrowUp: move(-1), Enter: open, e: open })
  );
</script>

<div class="flex min-h-0 flex-1 flex-col">
  <header class="flex items-baseline gap-3 px-4 pt-3 pb-2">
    <h1>{dueNow ? `${plural(dueNow, 'parcel')} must leave today` : 'Everything for today is out'}</h1>
    {#if overdue}<span class="font-semibold text-madder">{count(overdue)} overdue</span>{/if}
    <form class="ms-auto flex items-center gap-2" onsubmit={scan}>
      <a class="text-verdigris hover:underline" href="#/stock/counts">Counts</a>
      <span class="text-madder" role="alert">{problem}</span>
      <input
        bind:this={field}
        bind:value={scanned}
        class="field h-8 w-60 font-mono"
        placeholder="Scan a packing slip"
        aria-label="Consignment number"
      />
    </form>
  </header>
  <DueBoard {nodes} {node} {due} />
  <nav
    class="flex h-8 flex-none items-end gap-4.5 border-b border-line px-4"
    aria-label="Consignments by state"
  >
    {#each STATES as [key, name] (key)}
      <button
        class={[
          'pb-1.5',
          doing === key ? 'border-b-2 border-verdigris font-[650]' : 'text-soft hover:text-ink'
        ]}
        aria-pressed={doing === key}
        onclick={() => setParams({ state: key, due: '' })}>{name}</button
      >
    {/each}
    <span class="ms-auto pb-1.5 text-soft"
      >{plural(rows.length, 'consignment')}{rows.length >= 500 ? ' or more' : ''}</span
    >
  </nav>
  <div class="min-h-0 flex-1 overflow-auto" role="region" aria-label="Consignments">
    <table class="w-full">
      <thead class="sticky top-0 bg-paper shadow-[inset_0_-1px_var(--line)]"
        ><tr class="h-7"
          ><th class="px-4">Consignment</th><th class="px-2">To</th><th class="px-2">Node</th><th class="px-2"
            >Carrier</th
          ><th class="px-2 text-right">Packed</th><th class="px-2">State</th><th class="px-2">Leaves by</th
          ><th class="px-4">Arrives</th></tr
        ></thead
      >
      <tbody>
        {#each rows as row, i (row.id)}
          <tr
            id="consignment-{row.id}"
            class={['h-[30px] border-b border-line', i === here ? 'bg-verdigris-wash' : 'hover:bg-sunk']}
            aria-current={i === here ? 'true' : undefined}
          >
            <td class={['px-4 font-mono text-xs', i === here && 'shadow-[inset_3px_0_var(--verdigris)]']}
              ><a class="hover:underline" href="#/dispatch/bench/{row.id}">{row.number}</a></td
            >
            <td class="max-w-52 truncate px-2" dir="auto"
              >{row.buyer} <span class="text-soft">{row.country}</span></td
            >
            <td class="px-2"
              >{row.nodeName}{#if row.nodeClosed}<a
                  class="ms-2 text-madder underline"
                  href="#/network"
                  title="It is closed on the day on which this is to leave">✕ closed</a
                >{/if}</td
            >
            <td class="px-2 text-soft">{row.carrier} {row.service}</td>
            <td class="px-2 text-right">{row.packed} of {row.units}</td>
            <td class="px-2">{stands(row.state, row.collected)}</td>
            <td
              class={[
                'px-2',
                row.due === 'OVERDUE' &&
                  row.state !== 'IN_TRANSIT' &&
                  row.state !== 'HANDED_OVER' &&
                  'text-madder'
              ]}>{day(row.shipBy)}</td
            >
            <td class="px-4 text-soft">{day(row.arrivalOn)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if !rows.length}
      <p class="p-4 text-soft">
        {list.isPending
          ? 'Reading…'
          : list.isError
            ? list.error.message
            : doing === 'UNPACK'
              ? 'Nothing that was taken back lies in a parcel still.'
              : 'Nothing here. Consignments appear when orders are released to a node.'}
      </p>
    {/if}
  </div>
</div>
