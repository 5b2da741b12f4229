<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import { count } from '../../parts/format';
  import MoneyField from '../../parts/MoneyField.svelte';
  import { session } from '../../state/session.svelte';

  interface Props {
    line: Schemas['ByHandHandOrder']['lines'][number];
    onremove: () => void;
  }
  let { line = $bindable(), onremove }: Props = $props();

  const id = $props.id();
  let personal = $state(false);
  const found = createQuery(() => ({
    queryKey: ['phone-line', line.sku],
    queryFn: () => get(api.GET('/api/stock', { params: { query: { search: line.sku } } })),
    enabled: line.sku.trim().length > 1
  }));
  const items = $derived(line.sku.trim().length > 1 ? (found.data?.items.rows ?? []).slice(0, 12) : []);
  const item = $derived(items.find((i) => i.sku === line.sku.trim()));
  const places = $derived(
    item?.cells
      .filter((c) => c.available > 0)
      .map((c) => `${found.data?.nodes.find((n) => n.id === c.nodeId)?.name} ${count(c.available)}`)
      .join(' · ')
  );
</script>

<div class="mb-1.5 grid grid-cols-[14rem_4.5rem_6rem_1fr_auto] items-center gap-2">
  <input
    class="field h-7 font-mono"
    placeholder="SKU or part of a name"
    aria-label="Item"
    list={id}
    bind:value={line.sku}
    autocomplete="off"
  />
  <datalist {id}>
    {#each items as i (i.sku)}<option value={i.sku}>{i.name}, {count(i.available)} available</option>{/each}
  </datalist>
  <input
    class="field h-7 text-right"
    type="number"
    min="1"
    aria-label="Units"
    bind:value={line.quantity}
    required
  />
  <MoneyField
    class="field h-7 text-right"
    currency={session.base}
    value={line.unitPrice ?? null}
    aria-label="Price of one"
    placeholder="list price"
    ontype={(minor) => (line.unitPrice = minor)}
  />
  <span class={['truncate text-xs', item && item.available < line.quantity ? 'text-madder' : 'text-soft']}>
    {#if item}{item.name}: {item.available < line.quantity ? '✕' : '✓'}
      {count(item.available)} available{places
        ? ` (${places})`
        : ''}{:else if line.sku.trim().length > 1 && found.isSuccess && items.length === 0}nothing is called
      that{/if}
  </span>
  <button type="button" class="px-1 text-soft hover:text-ink" aria-label="Remove this line" onclick={onremove}
    >✕</button
  >
  {#if personal || line.wish}
    <input
      class="field col-span-4 h-7"
      placeholder="What is to be put on it, or made of it"
      aria-label="Personalisation"
      maxlength="1000"
      bind:value={line.wish}
    />
  {:else}
    <button
      type="button"
      class="col-span-4 justify-self-start text-xs text-verdigris hover:underline"
      onclick={() => (personal = true)}>Personalise</button
    >
  {/if}
</div>
