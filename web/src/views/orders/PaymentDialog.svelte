<script lang="ts">
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import MoneyField from '../../parts/MoneyField.svelte';
  import { useDoing } from '../../state/doing';

  let { open = $bindable(), sheet }: { open: boolean; sheet: Schemas['OrderSheetsSheet'] } = $props();

  const run = useDoing();
  const before = untrack(() => sheet.figures.tenders.reduce((sum, t) => sum + t.amount, 0));
  let method = $state('bank transfer');
  let amount = $state<number | null>(untrack(() => Math.max(0, sheet.order.total - before)));
  let reference = $state('');

  function record(event: SubmitEvent) {
    event.preventDefault();
    open = false;
    void run(
      get(
        api.POST('/api/orders/{id}/payments', {
          params: { path: { id: sheet.order.id } },
          body: { method, amount: amount ?? 0, reference }
        })
      ),
      'Payment noted'
    );
  }
</script>

<Dialog bind:open title="What came in for {sheet.order.number}">
  <form class="space-y-3" onsubmit={record}>
    <div class="flex gap-3">
      <label class="text-soft"
        >Amount in {sheet.order.currency}
        <MoneyField
          class="field mt-1 block w-28 text-right"
          currency={sheet.order.currency}
          value={amount}
          ontype={(minor) => (amount = minor)}
          required
        /></label
      >
      <label class="min-w-0 flex-1 text-soft"
        >How<input class="field mt-1 block w-full" maxlength="40" required bind:value={method} /></label
      >
      <label class="min-w-0 flex-1 text-soft"
        >Reference<input class="field mt-1 block w-full" maxlength="80" bind:value={reference} /></label
      >
    </div>
    <p class="text-soft">With the last of what it costs the order is paid, and goes on.</p>
    <Button main type="submit" disabled={!amount}>Note the payment</Button>
  </form>
</Dialog>
