<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';

  interface Props {
    part: { sku: string; quantity: number; choice: string; label: string };
    isNew: boolean;
    wrong: string;
    onremove: () => void;
  }
  let { part = $bindable(), isNew, wrong, onremove }: Props = $props();

  const id = $props.id();
  const focused = (input: HTMLInputElement) => {
    if (isNew) input.focus();
  };
  const found = createQuery(() => ({
    queryKey: ['kit-part', part.sku],
    queryFn: () => get(api.GET('/api/stock', { params: { query: { search: part.sku } } })),
    enabled: part.sku.trim().length > 1
  }));
  const items = $derived((found.data?.items.rows ?? []).slice(0, 12));
  const item = $derived(items.find((i) => i.sku === part.sku.trim()));
</script>

<div class="mb-1.5 grid grid-cols-[1fr_4.5rem_8rem_6rem_auto] items-center gap-2">
  <span class="flex items-center gap-2"
    ><input
      class={['field h-7 w-44 flex-none font-mono', wrong && 'border-madder']}
      placeholder="SKU or part of a name"
      aria-label="Component"
      list={id}
      bind:value={part.sku}
      {@attach focused}
      autocomplete="off"
    /><span class="truncate text-xs text-soft">{item?.name ?? ''}</span></span
  >
  <datalist {id}>
    {#each items as i (i.sku)}<option value={i.sku}>{i.name}</option>{/each}
  </datalist>
  <input
    class="field h-7 text-right"
    type="number"
    min="1"
    aria-label="Units in each"
    bind:value={part.quantity}
    required
  />
  <input
    class="field h-7"
    placeholder="always in it"
    maxlength="40"
    aria-label="Choice"
    bind:value={part.choice}
  />
  <input
    class="field h-7"
    maxlength="40"
    aria-label="Answer"
    disabled={!part.choice}
    bind:value={part.label}
  />
  <button
    type="button"
    class="px-1 text-soft hover:text-ink"
    aria-label="Remove this component"
    onclick={onremove}>✕</button
  >
</div>
