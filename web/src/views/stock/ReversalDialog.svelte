<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { toasts } from '../../state/toasts.svelte';

  let { open = $bindable(), receipt }: { open: boolean; receipt: Schemas['MovementsReceiptSheet'] } =
    $props();

  const client = useQueryClient();
  let reason = $state('');
  let problem = $state('');

  async function reverse(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(
        api.POST('/api/stock/receipts/{id}/reversal', {
          params: { path: { id: receipt.id } },
          body: { reason }
        })
      );
      open = false;
      toasts.say(`The receipt from ${receipt.supplier} ${receipt.number} is taken back`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="Take back the receipt from {receipt.supplier} {receipt.number}">
  <form class="space-y-3" onsubmit={reverse}>
    <p class="text-soft">
      For what was entered wrongly. Its units leave the stock again, and what was expected is expected again.
      It can be done until something of it is used.
    </p>
    <label class="block text-soft"
      >Why<input
        class="field mt-1 block w-full"
        required
        maxlength="200"
        bind:value={reason}
        data-autofocus
      /></label
    >
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Take back</Button>
  </form>
</Dialog>
