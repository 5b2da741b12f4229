<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { go } from '../../state/address';
  import { toasts } from '../../state/toasts.svelte';

  let { open = $bindable(), bench }: { open: boolean; bench: Schemas['DispatchBench'] } = $props();

  const client = useQueryClient();
  const c = $derived(bench.consignment);
  let reason = $state('');
  let problem = $state('');

  async function putBack(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(
        api.POST('/api/dispatch/consignments/{id}/not-collected', {
          params: { path: { id: c.id } },
          body: { reason }
        })
      );
      open = false;
      toasts.say(`${c.number} is back in stock; ${c.orderNumber} is held`);
      go('/dispatch');
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="{c.number} was not collected">
  <form class="space-y-3" onsubmit={putBack}>
    <p class="text-soft">
      Its goods go back into the stock of {c.nodeName}. The order is held, until somebody says whether it is
      sent, collected later or cancelled.
    </p>
    <label class="block text-soft"
      >Note<input class="field mt-1 block w-full" maxlength="100" bind:value={reason} data-autofocus /></label
    >
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Back to stock</Button>
  </form>
</Dialog>
