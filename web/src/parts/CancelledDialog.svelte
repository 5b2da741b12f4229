<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../api/client';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';

  interface Props {
    open: boolean;
    orderId: number;
    title: string;
    detail: string;
  }
  let { open = $bindable(), orderId, title, detail }: Props = $props();

  const client = useQueryClient();
  let problem = $state('');
  const path = $derived({ params: { path: { id: orderId } } });

  async function settle(what: Promise<unknown>, done: string) {
    try {
      await what;
      open = false;
      toasts.say(done);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open {title}>
  <p>{detail}.</p>
  <p class="text-soft">
    Taking it back frees its stock; whoever packs it finds it gone from the bench. Letting it go leaves it to
    come back as a return.
  </p>
  <p class="min-h-5 text-madder" role="alert">{problem}</p>
  <div class="flex gap-2">
    <Button
      main
      onclick={() =>
        void settle(get(api.POST('/api/orders/{id}/take-back', path)), 'Taken back and cancelled')}
      >Take it back</Button
    >
    <Button onclick={() => void settle(get(api.POST('/api/orders/{id}/let-go', path)), 'It goes on')}
      >Let it go</Button
    >
  </div>
</Dialog>
