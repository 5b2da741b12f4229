<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    open: boolean;
    supplier: Schemas['SupplierOffersSupplier'];
  }
  let { open = $bindable(), supplier }: Props = $props();

  const client = useQueryClient();
  const places = createQuery(() => ({
    queryKey: ['suppliers', 'nodes'],
    queryFn: () => get(api.GET('/api/suppliers/nodes'))
  }));
  let nodeId = $state(untrack(() => supplier.nodeId ?? null));
  let freshDays = $state(untrack(() => supplier.freshDays));
  let problem = $state('');

  async function save(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(
        api.PUT('/api/suppliers/{id}/sending', {
          params: { path: { id: supplier.id } },
          body: { nodeId, freshDays }
        })
      );
      open = false;
      toasts.say(nodeId ? `What ${supplier.name} has can be sold` : `${supplier.name} only sells to us`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="Does {supplier.name} send by itself?">
  <form class="space-y-3" onsubmit={save}>
    <label class="block text-soft"
      >Sends from<select class="field mt-1 block w-full" bind:value={nodeId} data-autofocus
        ><option value={null}>nowhere: it only sells to us</option>
        {#each places.data ?? [] as place (place.id)}<option value={place.id}>{place.name}</option
          >{/each}</select
      ></label
    >
    <label class="block text-soft"
      >What its file says of its stock counts for, days<input
        class="field mt-1 block w-28"
        type="number"
        min="1"
        max="365"
        bind:value={freshDays}
        required
      /></label
    >
    <p class="text-soft">
      What it has there is fed to channels, promised and routed like our own stock, at the price of its offer.
      Once its file is older than that, it counts as none.
    </p>
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Save</Button>
  </form>
</Dialog>
