<!-- Where orders with an item are tried first; for its whole family at once, if it has one. -->
<script lang="ts">
  import { api, get, type Schemas } from '../../api/client';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  let { id, sheet }: { id: number; sheet: Schemas['StockGridItemSheet'] } = $props();

  const run = useDoing();
  let family = $state(false);
  const name = (code: string | null) => sheet.nodes.find((n) => n.code === code)?.name ?? code;

  function set(node: string | null, seen?: string) {
    const before = sheet.home ?? null;
    const params = { path: { id }, header: seen ? { 'If-Match': seen } : {} };
    void run(
      get(api.PUT('/api/stock/items/{id}/home', { params, body: { node, family } })),
      node ? `Orders are tried at ${name(node)} first` : 'No node is tried first any more',
      family ? undefined : () => set(before)
    );
  }
</script>

{#if session.mayChange || sheet.home}
  <p class="mt-3 flex flex-wrap items-center gap-2 text-soft">
    {#if session.mayChange}
      <label
        >Tried first at <select
          class="field h-7 py-0 ps-2 pe-7 text-ink"
          value={sheet.home ?? ''}
          onchange={(e) => set(e.currentTarget.value || null, sheet.settingsTag)}
          ><option value="">no node in particular</option>{#each sheet.nodes as n (n.id)}<option
              value={n.code}>{n.name}</option
            >{/each}</select
        ></label
      >
      {#if sheet.item.family}<label
          ><input class="me-1" type="checkbox" bind:checked={family} />all of its family</label
        >{/if}
    {:else}Tried first at {name(sheet.home ?? null)}{/if}
  </p>
{/if}
