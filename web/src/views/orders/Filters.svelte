<script lang="ts">
  import { tinykeys } from 'tinykeys';
  import Kbd from '../../parts/Kbd.svelte';
  import { param, setParams } from '../../state/address';
  import { day } from '../../parts/format';
  import { free } from '../../state/keys';
  import { BY_LINK, FILTERS, type FilterName } from './worklist';
  import { minor, typed } from '../../parts/money';
  import { session } from '../../state/session.svelte';

  let adding = $state(false);
  let name = $state<FilterName>('country');
  let value = $state('');
  let field = $state<HTMLInputElement>();

  const set = $derived(
    FILTERS.map(([key, label]) => ({ key, label, value: param(key) })).filter((f) => f.value)
  );
  const shown = (key: FilterName, text: string) => {
    if (key === 'minValue') return `${typed(Number(text), session.base)} ${session.base}`;
    return key === 'since' ? day(text) : text;
  };

  function add(event: SubmitEvent) {
    event.preventDefault();
    const text = value.trim();
    if (!text) return;
    const upper = name === 'country' || name === 'stage' || name === 'node' || name === 'channel';
    const stored =
      name === 'minValue' ? String(minor(text, session.base)) : upper ? text.toUpperCase() : text;
    if (stored !== 'NaN') setParams({ [name]: stored });
    adding = false;
    value = '';
  }

  $effect(() => field?.focus());
  $effect(() =>
    tinykeys(window, {
      f: (event) => {
        if (!free(event)) return;
        event.preventDefault();
        adding = true;
      }
    })
  );
</script>

{#each set as filter (filter.key)}
  <span class="card flex h-6 items-center gap-1.5 px-2"
    ><b class="font-[650]">{filter.label}</b>
    {shown(filter.key, filter.value)}
    <button
      class="text-soft hover:text-ink"
      aria-label="Remove filter {filter.label}"
      onclick={() => setParams({ [filter.key]: '' })}>✕</button
    ></span
  >
{/each}
{#if adding}
  <form class="flex items-center gap-1.5" onsubmit={add}>
    <select class="field h-7 py-0 pe-7" bind:value={name} aria-label="Filter by">
      {#each FILTERS.filter(([key]) => !BY_LINK.includes(key)) as [key, label] (key)}<option value={key}
          >{label}</option
        >{/each}
    </select>
    <input
      bind:this={field}
      bind:value
      class="field h-7 w-32"
      aria-label="Value"
      onkeydown={(event) => event.key === 'Escape' && (adding = false)}
    />
  </form>
{:else}
  <button class="card flex h-6 items-center px-2 hover:bg-sunk" onclick={() => (adding = true)}
    >+ filter<Kbd keys="f" /></button
  >
{/if}
