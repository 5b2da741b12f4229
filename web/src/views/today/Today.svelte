<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import { ago, count, plural } from '../../parts/format';
  import Pauses from '../routing/Pauses.svelte';
  import LeavingToday from './LeavingToday.svelte';
  import Promises from './Promises.svelte';
  import River from './River.svelte';
  import SnagList from './SnagList.svelte';
  import Troubles from './Troubles.svelte';

  const LAST_LOOK = 'ordinator-last-look';
  const since = localStorage.getItem(LAST_LOOK) ?? undefined;
  localStorage.setItem(LAST_LOOK, new Date().toISOString());

  const today = createQuery(() => ({
    queryKey: ['today'],
    queryFn: () => get(api.GET('/api/today', { params: { query: { since } } })),
    refetchInterval: 60_000
  }));
  const data = $derived(today.data);
  const wont = $derived(data ? data.mustLeave - data.willLeave : 0);
  const overdue = $derived(data?.nodes.reduce((sum, n) => sum + (n.due.OVERDUE ?? 0), 0) ?? 0);
  const date = new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long' }).format();
</script>

<div class="min-h-0 flex-1 overflow-y-auto px-4 pt-3 pb-4">
  {#if data}
    <header class="flex items-baseline gap-3">
      <h1>
        {#if data.mustLeave}{count(data.mustLeave)} must leave today, {count(data.willLeave)} will
        {:else}Nothing more must leave today{/if}
      </h1>
      {#if overdue}<a class="font-semibold text-madder hover:underline" href="#/dispatch?due=OVERDUE"
          >{count(overdue)} overdue</a
        >{/if}
      {#if data.late}<a class="font-semibold text-madder hover:underline" href="#/dispatch?state=ASK_CARRIER"
          >{count(data.late)} late on the way</a
        >{/if}
      {#if wont > 0}<span class="font-semibold text-madder">{count(wont)} won’t unless something is done</span
        >{/if}
      <span class="ms-auto text-soft">{date}</span>
    </header>
    <Pauses />
    <Troubles troubles={data.troubles} />
    <River stops={data.stops} waiting={data.waiting} />
    <div class="mt-2 flex gap-4">
      <div class="card w-[452px] flex-none self-start">
        <LeavingToday nodes={data.nodes} />
        <Promises promises={data.promises} />
      </div>
      <div class="card min-w-0 flex-1 self-start">
        <SnagList snags={data.snags} open={data.openSnags} />
        <p class="border-t border-line px-3 py-2.5 text-soft">
          {since ? `Since you last looked (${ago(data.since.from)})` : 'In the last 24 hours'}:
          {plural(data.since.received, 'order')} in, {count(data.since.routed)} routed by themselves, {plural(
            data.since.handedOver,
            'consignment'
          )} handed over, {count(data.since.delivered)} delivered.
        </p>
      </div>
    </div>
  {:else if today.isError}
    <h1>Today can’t be shown</h1>
    <p class="mt-2 text-soft">{today.error.message}</p>
  {:else}
    <p class="text-soft">Counting…</p>
  {/if}
</div>
