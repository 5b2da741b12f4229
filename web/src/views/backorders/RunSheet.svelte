<script lang="ts">
  import { createInfiniteQuery, createQuery } from '@tanstack/svelte-query';
  import { replace } from 'svelte-spa-router';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, moment, plural } from '../../parts/format';
  import { inSight } from '../../parts/rows';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import { saysBy, WHY, type Settings } from './runs';

  interface Props {
    id: number;
    others: Schemas['RunStoreRun'][];
    onagain: (run: { name: string; settings: Settings }) => void;
  }
  let { id, others, onagain }: Props = $props();

  const ROW = 30;
  const path = $derived({ params: { path: { id } } });
  const query = createQuery(() => ({
    queryKey: ['allocation', 'run', id],
    queryFn: () => get(api.GET('/api/allocation/runs/{id}', path)),
    refetchInterval: (q) => (q.state.data?.state === 'COMMITTING' ? 500 : false)
  }));
  const r = $derived(query.data);
  const log = createInfiniteQuery(() => ({
    queryKey: ['allocation', 'log', id, r?.state ?? ''],
    queryFn: ({ pageParam }) =>
      get(
        api.GET('/api/allocation/runs/{id}/lines', { params: { path: { id }, query: { after: pageParam } } })
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.next ? Number(last.next) : undefined)
  }));
  const lines = $derived(log.data?.pages.flatMap((p) => p.rows) ?? []);
  let other = $state(0);
  const compared = createQuery(() => ({
    queryKey: ['allocation', 'compared', id, other],
    queryFn: () =>
      get(
        api.GET('/api/allocation/runs/{id}/compared', { params: { path: { id }, query: { with: other } } })
      ),
    enabled: other > 0
  }));
  let top = $state(0);
  let height = $state(500);
  const part = $derived(inSight(top, height, ROW, lines.length));
  $effect(() => {
    if (log.hasNextPage && !log.isFetchingNextPage && part.to > lines.length - 40) void log.fetchNextPage();
  });

  const run = useDoing();
  const undo = () =>
    void run(get(api.POST('/api/allocation/runs/{id}/undo', path)), 'All of it is taken back');
  const commit = () =>
    void run(get(api.POST('/api/allocation/runs/{id}/commit', path)), 'It is being given out', undo);
  async function route() {
    const asked = get(api.POST('/api/allocation/runs/{id}/route', path));
    await run(asked, '');
    const done = await asked.catch(() => undefined);
    if (done) toasts.say(`${plural(done.routed, 'order')} routed${done.left ? `, ${done.left} not` : ''}`);
  }
</script>

<aside class="flex min-w-0 flex-1 flex-col border-l border-line bg-sheet" aria-label="Run">
  {#if r}
    <header class="border-b border-line px-4 pt-3 pb-2">
      <div class="flex items-baseline gap-2">
        <h2 class="truncate text-base">{r.name}</h2>
        <span class="text-soft">{moment(r.madeAt)}, {r.madeBy}</span>
        <button
          class="ms-auto text-soft hover:text-ink"
          aria-label="Close"
          onclick={() => void replace('/backorders/runs')}>✕</button
        >
      </div>
      <p>
        <b class="font-[650]">{count(r.given)} of {count(r.asked)} units</b>
        {r.state === 'PREVIEW' ? 'would go' : r.state === 'UNDONE' ? 'had gone' : 'went'} to {plural(
          r.orders,
          'order'
        )};
        {#if r.shortOrders}<span class="text-madder"
            >{plural(
              r.shortOrders,
              'order gets less than it asks for',
              'orders get less than they ask for'
            )}</span
          >{:else}nobody goes short{/if}.
        {#if r.changed}<span class="text-madder"
            >{plural(r.changed, 'line')} got less than was seen: something had changed.</span
          >{/if}
      </p>
      <p class="text-soft">
        Served by {saysBy(r.settings.by)}; {r.settings.way === 'BY_ORDER'
          ? 'order by order'
          : 'item by item'}{r.settings.share ? ', scarce items shared' : ''}{r.settings.byLot
          ? ', lots named'
          : ''}{r.settings.thenRoute ? '; then routed' : ''}{r.settings.recordShort
          ? '; who gets nothing waits, or as the channel says'
          : ''}
      </p>
      {#if r.state === 'COMMITTING'}
        <progress
          class="mt-1 w-full accent-verdigris"
          max={r.lines}
          value={r.done}
          aria-label="Lines given out"
        ></progress>
        <p class="text-soft" role="status">
          {count(r.done)} of {plural(r.lines, 'line')}; it goes on if you leave.
        </p>
      {/if}
      {#if session.mayChange}<p class="mt-1.5 flex flex-wrap items-center gap-2">
          {#if r.state === 'PREVIEW'}<Button main small onclick={commit}>Give it out</Button>{/if}
          {#if r.state === 'COMMITTED'}
            {#if !r.settings.thenRoute}<Button main small onclick={() => void route()}
                >Route these orders</Button
              >{/if}
            <Button small onclick={undo}>Take it back</Button>
          {/if}
          <Button small onclick={() => onagain({ name: r.name, settings: r.settings })}>Otherwise…</Button>
          <Button small href="/api/allocation/runs/{id}/lines.csv">CSV</Button>
          {#if others.length}<select
              class="field ms-auto h-7 max-w-52 py-0 ps-2 pe-7"
              aria-label="Compare with"
              value={String(other || '')}
              onchange={(e) => (other = Number(e.currentTarget.value))}
              ><option value="">compare with…</option>{#each others as o (o.id)}<option value={String(o.id)}
                  >{o.name}, {moment(o.madeAt)}</option
                >{/each}</select
            >{/if}
        </p>{/if}
    </header>
    {#if other}
      <div class="min-h-0 flex-1 overflow-auto" role="region" aria-label="What differs">
        {#if compared.data?.length}
          <table class="w-full">
            <thead class="sticky top-0 bg-sheet shadow-[inset_0_-1px_var(--line)]"
              ><tr class="h-7"
                ><th class="px-4">Order</th><th class="px-2">Item</th><th class="px-2 text-right">Asked</th
                ><th class="px-2 text-right">Here</th><th class="px-4 text-right">There</th></tr
              ></thead
            >
            <tbody>
              {#each compared.data as c (c.orderId + c.sku)}
                <tr class="h-[30px] border-b border-line"
                  ><td class="px-4"
                    ><span class="font-mono text-xs">{c.orderNumber}</span>
                    <span dir="auto">{c.buyer}</span></td
                  ><td class="px-2 font-mono text-xs">{c.sku}</td><td class="px-2 text-right"
                    >{count(c.asked)}</td
                  ><td class="px-2 text-right font-[650]">{count(c.first)}</td><td class="px-4 text-right"
                    >{count(c.second)}</td
                  ></tr
                >
              {/each}
            </tbody>
          </table>
        {:else}<p class="p-4 text-soft">
            {compared.isPending ? 'Comparing…' : 'Nobody gets anything else.'}
          </p>{/if}
      </div>
    {:else}
      <div
        class="min-h-0 flex-1 overflow-auto"
        role="region"
        aria-label="Log"
        bind:clientHeight={height}
        onscroll={(event) => (top = event.currentTarget.scrollTop)}
      >
        <table class="w-full table-fixed" aria-rowcount={r.lines}>
          <colgroup
            ><col class="w-12" /><col /><col class="w-[112px]" /><col class="w-[92px]" /><col
              class="w-[168px]"
            /></colgroup
          >
          <thead class="sticky top-0 bg-sheet shadow-[inset_0_-1px_var(--line)]"
            ><tr class="h-7"
              ><th class="ps-4">Turn</th><th class="px-2">Order</th><th class="px-2">SKU</th><th
                class="px-2 text-right">Gets</th
              ><th class="px-2 pe-4">From, or why not</th></tr
            ></thead
          >
          <tbody>
            {#if part.above}<tr aria-hidden="true" style:height="{part.above}px"><td colspan="5"></td></tr
              >{/if}
            {#each lines.slice(part.from, part.to) as l (l.no)}
              <tr class="border-b border-line" style:height="{ROW}px">
                <td class="ps-4 text-soft">{l.no + 1}</td>
                <td class="truncate px-2"
                  ><a class="font-mono text-xs hover:underline" href="#/orders/{l.orderId}?pile=ALL"
                    >{l.orderNumber}</a
                  > <span dir="auto">{l.buyer}</span></td
                >
                <td class="truncate px-2 font-mono text-xs" title={l.item}>{l.sku}</td>
                <td class="px-2 text-right"
                  ><b class={['font-[650]', l.given < l.asked && 'text-madder']}>{count(l.given)}</b> of {count(
                    l.asked
                  )}</td
                >
                <td class="truncate px-2 pe-4" title="{l.from} {WHY[l.why]}"
                  >{l.from}{l.why === 'FULL' ? '' : `${l.from ? ' · ' : ''}${WHY[l.why]}`}</td
                >
              </tr>
            {/each}
            {#if part.below}<tr aria-hidden="true" style:height="{part.below}px"><td colspan="5"></td></tr
              >{/if}
          </tbody>
        </table>
        {#if !lines.length}<p class="p-4 text-soft">
            {log.isPending ? 'Reading…' : 'Nothing open is like that: no line waits to be allocated.'}
          </p>{/if}
      </div>
    {/if}
  {:else}
    <p class="p-4 text-soft">{query.isError ? query.error.message : 'Reading…'}</p>
  {/if}
</aside>
