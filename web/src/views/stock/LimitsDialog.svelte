<script lang="ts">
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { useDoing } from '../../state/doing';

  interface Props {
    open: boolean;
    id: number;
    sku: string;
    node: Schemas['StockGridNodeHead'];
    cell?: Schemas['StockGridCell'];
    /** The tag of the settings when they were read. */
    settingsTag: string;
  }
  let { open = $bindable(), id, sku, node, cell, settingsTag }: Props = $props();

  const run = useDoing();
  /** What is being typed was typed over what was there then. */
  const seen = untrack(() => settingsTag);
  let safety = $state(untrack(() => cell?.safety ?? 0));
  let most = $state<number | null>(untrack(() => cell?.most ?? null));

  async function save(event: SubmitEvent) {
    event.preventDefault();
    await run(
      get(
        api.PUT('/api/stock/items/{id}/limits', {
          params: { path: { id }, header: { 'If-Match': seen } },
          body: { nodeId: node.id, safety, most }
        })
      ),
      `${sku} at ${node.name}: limits changed`
    );
    open = false;
  }
</script>

<Dialog bind:open title="{sku} at {node.name}">
  <form class="space-y-3" onsubmit={save}>
    <label class="block text-soft"
      >Kept back, never offered (safety stock)<input
        class="field mt-1 block w-28 text-right"
        type="number"
        min="0"
        required
        bind:value={safety}
        data-autofocus
      /></label
    >
    <label class="block text-soft"
      >More than this is a surplus; empty: no limit<input
        class="field mt-1 block w-28 text-right"
        type="number"
        min={safety}
        bind:value={most}
      /></label
    >
    <Button main type="submit">Save</Button>
  </form>
</Dialog>
