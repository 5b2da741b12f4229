<script lang="ts">
  import type { Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';

  let { found }: { found: (body: Schemas['CountsFound']) => Promise<boolean> } = $props();

  let item = $state('');
  let bin = $state('');
  let lot = $state('');
  let expires = $state('');
  let units = $state<number | null>(null);

  async function add(event: SubmitEvent) {
    event.preventDefault();
    if (units == null) return;
    const done = await found({ item, bin, lot, expires: expires || null, units, why: 'FOUND', note: '' });
    if (done) [item, lot, expires, units] = ['', '', '', null];
  }
</script>

<form class="flex items-end gap-3 px-4 py-3" onsubmit={add}>
  <span class="pb-1.5 text-soft">Something else lies there:</span>
  <label class="text-soft"
    >SKU or GTIN<input class="field mt-1 block w-40 font-mono" required bind:value={item} /></label
  >
  <label class="text-soft"
    >Bin<input class="field mt-1 block w-24 font-mono" maxlength="20" bind:value={bin} /></label
  >
  <label class="text-soft"
    >Lot or number<input class="field mt-1 block w-32 font-mono" maxlength="40" bind:value={lot} /></label
  >
  <label class="text-soft"
    >Use until<input class="field mt-1 block w-36" type="date" bind:value={expires} /></label
  >
  <label class="text-soft"
    >Units<input
      class="field mt-1 block w-20 text-right"
      type="number"
      min="0"
      required
      bind:value={units}
    /></label
  >
  <Button type="submit">Add</Button>
</form>
