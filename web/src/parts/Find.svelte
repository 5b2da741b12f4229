<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../api/client';
  import { go } from '../state/address';
  import Kbd from './Kbd.svelte';

  let text = $state('');
  let asked = $state('');
  let at = $state(0);
  let open = $state(false);
  let input = $state<HTMLInputElement>();
  let timer: ReturnType<typeof setTimeout> | undefined;

  const found = createQuery(() => ({
    queryKey: ['find', asked],
    queryFn: () => get(api.GET('/api/find', { params: { query: { q: asked } } })),
    enabled: asked.length > 1
  }));
  const hits = $derived(asked.length > 1 ? (found.data ?? []) : []);
  const kinds = { ORDER: 'Orders', RETURN: 'Returns', ITEM: 'Items' };
  const paths = { ORDER: '/orders', RETURN: '/returns', ITEM: '/stock' };

  export function focus() {
    input?.focus();
    input?.select();
  }

  function typed() {
    open = true;
    at = 0;
    clearTimeout(timer);
    timer = setTimeout(() => (asked = text.trim()), 120);
  }

  function choose(hit: Schemas['FindHit'] | undefined) {
    if (!hit) return;
    go(`${paths[hit.kind]}/${hit.id}${hit.kind === 'ORDER' ? '?pile=ALL' : ''}`);
    open = false;
    input?.blur();
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key === 'ArrowDown') at = Math.min(hits.length - 1, at + 1);
    else if (event.key === 'ArrowUp') at = Math.max(0, at - 1);
    else if (event.key === 'Enter') choose(hits[at]);
    else if (event.key === 'Escape') {
      open = false;
      input?.blur();
    } else return;
    event.preventDefault();
  }
</script>

<div class="relative w-[380px] min-w-40 shrink">
  <input
    bind:this={input}
    bind:value={text}
    class="field h-7 w-full pe-8"
    placeholder="Order, buyer, SKU, tracking…"
    role="combobox"
    aria-label="Find anything"
    aria-expanded={open && hits.length > 0}
    aria-controls="found"
    aria-activedescendant={open && hits.length ? `found-${at}` : undefined}
    autocomplete="off"
    oninput={typed}
    onfocus={() => (open = true)}
    onblur={() => setTimeout(() => (open = false), 150)}
    {onkeydown}
  />
  <span class="pointer-events-none absolute top-1 right-2"><Kbd keys="/" /></span>
  {#if open && asked.length > 1}
    <ul
      id="found"
      role="listbox"
      aria-label="Found"
      class="card absolute z-30 mt-1 max-h-96 w-[460px] overflow-auto py-1 shadow-lg"
    >
      {#each hits as hit, i (hit.kind + hit.id)}
        {#if hits[i - 1]?.kind !== hit.kind}
          <li role="presentation" class="px-3 pt-1.5 pb-0.5 text-[0.7rem] font-semibold text-soft">
            {kinds[hit.kind]}
          </li>
        {/if}
        <!-- svelte-ignore a11y_click_events_have_key_events (the field takes the keys) -->
        <li
          id="found-{i}"
          role="option"
          aria-selected={i === at}
          class={['flex cursor-pointer gap-3 px-3 py-1', i === at && 'bg-verdigris-wash']}
          onclick={() => choose(hit)}
          onmouseenter={() => (at = i)}
        >
          <span class="flex-none font-mono text-xs leading-5">{hit.title}</span>
          <span class="truncate text-soft">{hit.detail}</span>
        </li>
      {:else}
        <li class="px-3 py-1 text-soft">
          {found.isFetching
            ? 'Looking…'
            : 'Nothing begins with that. Numbers, buyers, mail, SKU and tracking are found.'}
        </li>
      {/each}
    </ul>
  {/if}
</div>
