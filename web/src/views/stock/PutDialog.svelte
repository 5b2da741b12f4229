<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { plural } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    open: boolean;
    sku: string;
    place: Schemas['LotsPlace'];
  }
  let { open = $bindable(), sku, place }: Props = $props();

  const client = useQueryClient();
  let units = $state(untrack(() => place.onHand - place.allocated));
  let bin = $state(untrack(() => place.bin));
  let stands = $state(untrack(() => place.state));
  let note = $state('');
  let problem = $state('');

  async function put(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(
        api.POST('/api/stock/places/{id}/moves', {
          params: { path: { id: place.id } },
          body: { units, bin, state: stands, note }
        })
      );
      open = false;
      toasts.say(`${plural(units, 'unit')} of ${sku} moved`);
      await client.invalidateQueries({ queryKey: ['stock'] });
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="{sku} at {place.node}{place.bin ? `, bin ${place.bin}` : ''}">
  <form class="space-y-3" onsubmit={put}>
    <div class="flex gap-3">
      <label class="text-soft"
        >Units<input
          class="field mt-1 block w-24 text-right"
          type="number"
          min="1"
          max={place.onHand - place.allocated}
          required
          bind:value={units}
        /></label
      >
      <label class="text-soft"
        >Into bin<input
          class="field mt-1 block w-28 font-mono"
          maxlength="20"
          bind:value={bin}
          data-autofocus
        /></label
      >
      <label class="text-soft"
        >As<select class="field mt-1 block w-40" bind:value={stands}
          ><option value="SELLABLE">can be sold</option><option value="QUARANTINE">in quarantine</option
          ><option value="DAMAGED">damaged</option></select
        ></label
      >
    </div>
    <label class="block text-soft"
      >Why{stands === place.state ? '' : ' *'}<input
        class="field mt-1 block w-full"
        maxlength="400"
        required={stands !== place.state}
        bind:value={note}
      /></label
    >
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Move</Button>
  </form>
</Dialog>
