<!-- Whether orders wait for an item, what is sold of it ahead, how long making it takes, and what may
     be sent instead. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { fullDay, plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  let { id, ahead, seen }: { id: number; ahead: Schemas['SellingAheadAhead']; seen: string } = $props();

  const run = useDoing();
  const path = $derived({ params: { path: { id } } });
  const others = createQuery(() => ({
    queryKey: ['stock', 'substitutes', id],
    queryFn: () => get(api.GET('/api/stock/items/{id}/substitutes', path))
  }));
  const list = $derived(others.data ?? []);
  let sku = $state('');
  let price = $state<Schemas['SubstitutesWish']['price']>('NO_DEARER');

  function set(now: Partial<typeof ahead>) {
    const before = { ...ahead };
    const after = { ...ahead, ...now };
    if (!after.outOn) after.aheadMost = null;
    const put = (body: typeof ahead, header = {}) =>
      get(api.PUT('/api/stock/items/{id}/ahead', { params: { path: { id }, header }, body }));
    void run(put(after, { 'If-Match': seen }), 'Kept', () => void run(put(before), 'As it was'));
  }
  const wish = (s: Schemas['SubstitutesSubstitute']) => ({
    sku: s.sku,
    price: s.price,
    percent: s.percent
  });
  const put = (body: Schemas['SubstitutesWish'][], said: string) =>
    run(
      get(
        api.PUT('/api/stock/items/{id}/substitutes', {
          params: { path: { id }, header: { 'If-Match': seen } },
          body
        })
      ),
      said
    );
  async function add(event: SubmitEvent) {
    event.preventDefault();
    const more = { sku: sku.trim(), price, percent: price === 'UP_TO' ? 10 : 0 };
    await put([...list.map(wish), more], `${more.sku} may be sent instead`);
    sku = '';
  }
  const PRICE = {
    ANY: 'at any price',
    SAME: 'if just as dear',
    CHEAPER: 'if cheaper',
    NO_DEARER: 'if no dearer',
    UP_TO: 'if at most 10 % dearer'
  };
</script>

<div class="mt-3 space-y-1.5 text-soft">
  {#if session.mayChange}
    <p class="flex flex-wrap items-center gap-2">
      <label
        ><input
          class="me-1 size-3.5 rounded-sm border-faint"
          type="checkbox"
          checked={ahead.mayWait}
          onchange={(e) => set({ mayWait: e.currentTarget.checked })}
        />orders may wait for it</label
      >
      <label
        >sent from <input
          class="field h-7 w-36 text-ink"
          type="date"
          value={ahead.outOn ?? ''}
          onchange={(e) => set({ outOn: e.currentTarget.value || null })}
        /></label
      >
      {#if ahead.outOn}<label
          >sold before at most <input
            class="field h-7 w-20 text-ink"
            type="number"
            min="0"
            placeholder="any"
            value={ahead.aheadMost ?? ''}
            onchange={(e) =>
              set({ aheadMost: e.currentTarget.value === '' ? null : Number(e.currentTarget.value) })}
          /></label
        >{/if}
      <label
        >takes <input
          class="field h-7 w-16 text-ink"
          type="number"
          min="0"
          max="366"
          aria-label="Workdays that making it takes"
          value={ahead.leadDays}
          onchange={(e) => set({ leadDays: Number(e.currentTarget.value) })}
        /> workdays to make</label
      >
    </p>
  {:else if ahead.outOn}<p>
      Sent from {fullDay(ahead.outOn)}{ahead.aheadMost === null
        ? ''
        : `; ${plural(ahead.aheadMost, 'unit')} sold before at most`}
    </p>{/if}
  {#if list.length || session.mayChange}
    <h3 class="pt-2 font-[650] text-ink">Sent instead when it is short</h3>
    {#each list as s, i (s.itemId)}
      <p class="flex items-baseline gap-2 border-t border-line py-0.5">
        <span class="text-soft">{i + 1}</span>
        <span class="min-w-0 flex-1 truncate text-ink"
          ><a class="font-mono text-xs hover:underline" href="#/stock/{s.itemId}">{s.sku}</a> {s.name}</span
        >
        <span>{s.price === 'UP_TO' ? `if at most ${s.percent} % dearer` : PRICE[s.price]}</span>
        {#if session.mayChange}
          {#if i}<Button
              small
              aria-label="{s.sku} before the one above"
              onclick={() => {
                const body = list.map(wish);
                body.splice(i - 1, 0, ...body.splice(i, 1));
                void put(body, `${s.sku} is tried before`);
              }}>↑</Button
            >{/if}
          <Button
            small
            aria-label="{s.sku} is not sent instead"
            onclick={() =>
              void put(list.filter((o) => o !== s).map(wish), `${s.sku} is not sent instead any more`)}
            >✕</Button
          >{/if}
      </p>
    {:else}<p>Nothing is.</p>{/each}
    {#if session.mayChange}<form class="flex gap-2" onsubmit={add}>
        <input
          class="field h-7 w-32 font-mono text-xs"
          placeholder="SKU"
          aria-label="SKU of a substitute"
          required
          bind:value={sku}
        />
        <select class="field h-7 py-0 ps-2 pe-7" aria-label="At which price" bind:value={price}
          >{#each Object.entries(PRICE) as [key, words] (key)}<option value={key}>{words}</option
            >{/each}</select
        >
        <Button small type="submit">Add</Button>
      </form>{/if}
  {/if}
</div>
