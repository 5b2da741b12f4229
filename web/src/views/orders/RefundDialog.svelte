<script lang="ts">
  import type { Schemas } from '../../api/client';
  import Dialog from '../../parts/Dialog.svelte';
  import RefundForm from './RefundForm.svelte';
  import { owed } from './refunds';

  interface Props {
    open: boolean;
    orderId: number;
    number: string;
    sheet: Schemas['RefundsRefundSheet'];
  }
  let { open = $bindable(), orderId, number, sheet }: Props = $props();
</script>

<Dialog bind:open title="Pay back for {number}" wide>
  <RefundForm {orderId} {sheet} start={owed(sheet.lines)} onasked={() => (open = false)} />
</Dialog>
