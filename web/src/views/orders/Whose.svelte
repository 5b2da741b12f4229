<!-- Who looks after an order, and the list on which it stands. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  let { sheet }: { sheet: Schemas['OrderSheetsSheet'] } = $props();

  const run = useDoing();
  const colleagues = createQuery(() => ({
    queryKey: ['orders', 'colleagues'],
    queryFn: () => get(api.GET('/api/orders/colleagues'))
  }));
  const lists = createQuery(() => ({
    queryKey: ['orders', 'lists'],
    queryFn: () => get(api.GET('/api/orders/lists'))
  }));
  const orders = $derived([sheet.order.id]);
  const name = (username: string | null) =>
    colleagues.data?.find((c) => c.username === username)?.name ?? username;

  function assign(to: string | null) {
    const before = sheet.assignedTo;
    const post = (whom: string | null) => get(api.POST('/api/orders/assign', { body: { orders, to: whom } }));
    void run(
      post(to),
      to ? `For ${name(to)}` : 'Nobody’s in particular',
      () => void run(post(before), 'As it was')
    );
  }
  function put(list: string | null) {
    const before = sheet.list;
    const post = (on: string | null) =>
      get(api.POST('/api/orders/put-on-list', { body: { orders, list: on } }));
    void run(
      post(list),
      list ? `On the list ${list}` : 'On no list',
      () => void run(post(before), 'As it was')
    );
  }
</script>

{#if session.mayChange || sheet.assignedTo || sheet.list}
  <p class="mt-4 flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line pt-2 text-soft">
    {#if session.mayChange}
      <label
        >For <select
          class="field h-7 py-0 ps-2 pe-7 text-ink"
          value={sheet.assignedTo ?? ''}
          onchange={(e) => assign(e.currentTarget.value || null)}
          ><option value="">nobody in particular</option
          >{#each colleagues.data ?? [] as c (c.username)}<option value={c.username}>{c.name}</option
            >{/each}</select
        ></label
      >
      <label
        >on the list <input
          class="field h-7 w-32 text-ink"
          list="order-lists"
          maxlength="40"
          placeholder="none"
          value={sheet.list ?? ''}
          onchange={(e) => put(e.currentTarget.value.trim() || null)}
        /></label
      >
      <datalist id="order-lists"
        >{#each lists.data ?? [] as l (l.name)}<option value={l.name}></option>{/each}</datalist
      >
    {:else}
      {sheet.assignedTo ? `For ${name(sheet.assignedTo)}` : ''}
      {sheet.list ? `On the list ${sheet.list}` : ''}
    {/if}
  </p>
{/if}
