<script lang="ts">
  import { createInfiniteQuery, createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { plural, word } from '../../parts/format';
  import { addressWith, param, setParams } from '../../state/address';
  import MovementRow from './MovementRow.svelte';
  import ReceiptCard from './ReceiptCard.svelte';

  type Reason = Schemas['MovementsMovement']['reason'];
  const REASONS: Reason[] = [
    'RECEIPT',
    'COUNT',
    'ADJUST',
    'RETURN',
    'PICK',
    'PUT_BACK',
    'HAND_OVER',
    'CHANNEL_SHIPPED',
    'SCRAP',
    'TO_SUPPLIER',
    'QUARANTINE',
    'MOVE',
    'TRANSFER_OUT',
    'TRANSFER_IN',
    'TRANSFER_LOST',
    'ASSEMBLE',
    'BREAK',
    'SUPPLIER_SAID'
  ];
  const number = (name: string) => (param(name) ? Number(param(name)) : undefined);
  const which = $derived({
    item: number('item'),
    receipt: number('receipt'),
    count: number('count'),
    lot: number('lot'),
    node: param('node') || undefined,
    reason: (param('reason') || undefined) as Reason | undefined,
    actor: param('actor') || undefined,
    from: param('from') || undefined,
    to: param('to') || undefined
  });
  const nodes = createQuery(() => ({
    queryKey: ['stock', 'nodes'],
    queryFn: () => get(api.GET('/api/stock/nodes'))
  }));
  const ledger = createInfiniteQuery(() => ({
    queryKey: ['stock', 'ledger', which],
    queryFn: ({ pageParam }) =>
      get(api.GET('/api/stock/movements', { params: { query: { ...which, after: pageParam } } })),
    initialPageParam: '',
    getNextPageParam: (last) => last.next ?? undefined
  }));
  const rows = $derived(ledger.data?.pages.flatMap((p) => p.rows) ?? []);
  /** What the address narrows it to besides the fields, in words; each can be let go. */
  const chips = $derived(
    [
      ['item', rows[0]?.sku],
      ['lot', `lot or number ${rows[0]?.lot ?? ''}`],
      ['receipt', 'one delivery'],
      ['count', 'one count'],
      ['actor', `by ${param('actor')}`]
    ].filter(([name]) => param(name!))
  );
  const csv = $derived(addressWith({}, '/api/stock/movements.csv'));
</script>

<section class="flex min-h-0 flex-1 flex-col" aria-label="Stock ledger">
  <header class="flex items-baseline gap-3 px-4 pt-3 pb-2">
    <h1>Stock ledger</h1>
    <span class="text-soft">{plural(rows.length, 'movement')}{ledger.hasNextPage ? ' and more' : ''}</span>
    <a class="ms-auto text-verdigris hover:underline" href={csv} download>As CSV</a>
    <a class="text-verdigris hover:underline" href="#/stock">back to the stock</a>
  </header>
  <div class="flex flex-wrap items-center gap-2 px-4 pb-2">
    <select
      class="field h-7 py-0 ps-2 pe-7"
      aria-label="Reason"
      value={param('reason')}
      onchange={(event) => setParams({ reason: event.currentTarget.value })}
      ><option value="">every reason</option>{#each REASONS as r (r)}<option value={r}>{word(r)}</option
        >{/each}</select
    >
    <select
      class="field h-7 py-0 ps-2 pe-7"
      aria-label="Node"
      value={param('node')}
      onchange={(event) => setParams({ node: event.currentTarget.value })}
      ><option value="">every node</option>{#each nodes.data ?? [] as n (n.id)}<option value={n.code}
          >{n.name}</option
        >{/each}</select
    >
    <label class="text-soft"
      >from <input
        class="field h-7"
        type="date"
        value={param('from')}
        onchange={(event) => setParams({ from: event.currentTarget.value })}
      /></label
    >
    <label class="text-soft"
      >to <input
        class="field h-7"
        type="date"
        value={param('to')}
        onchange={(event) => setParams({ to: event.currentTarget.value })}
      /></label
    >
    {#each chips as [name, words] (name)}
      <button
        class="rounded-full border border-line bg-sunk px-2 text-xs leading-5 hover:text-madder"
        aria-label="Not only {words}"
        onclick={() => setParams({ [name!]: '' })}>{words} ✕</button
      >
    {/each}
  </div>
  <div class="min-h-0 flex-1 overflow-y-auto border-t border-line px-4 pb-4">
    {#if which.receipt}<ReceiptCard id={which.receipt} />{/if}
    {#each rows as m (m.id)}
      <MovementRow {m} item />
    {:else}
      <p class="py-4 text-soft">
        {ledger.isPending
          ? 'Reading…'
          : ledger.isError
            ? ledger.error.message
            : 'Nothing moved that is like that.'}
      </p>
    {/each}
    {#if ledger.hasNextPage}<p class="pt-2">
        <Button small disabled={ledger.isFetchingNextPage} onclick={() => void ledger.fetchNextPage()}
          >Older ones</Button
        >
      </p>{/if}
  </div>
</section>
