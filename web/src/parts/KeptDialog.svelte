<!-- What came in for a cancelled order is not paid back: somebody says why. -->
<script lang="ts">
  import { api, get } from '../api/client';
  import { useDoing } from '../state/doing';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';
  import type { SnagLike } from './snags';

  interface Props {
    open: boolean;
    orderId: number;
    snag: SnagLike;
  }
  let { open = $bindable(), orderId, snag }: Props = $props();

  const run = useDoing();
  let reason = $state('');

  function keep(event: SubmitEvent) {
    event.preventDefault();
    open = false;
    void run(
      get(
        api.POST('/api/orders/{order}/refunds/kept', {
          params: { path: { order: orderId } },
          body: { reason }
        })
      ),
      'Nothing is paid back'
    );
  }
</script>

<Dialog bind:open title={snag.title}>
  <form class="space-y-3" onsubmit={keep}>
    <p class="text-soft">{snag.detail}.</p>
    <label class="block text-soft"
      >Why it is not paid back<input
        class="field mt-1 block w-full"
        required
        maxlength="200"
        bind:value={reason}
        data-autofocus
      /></label
    >
    <Button main type="submit">Don’t pay back</Button>
  </form>
</Dialog>
