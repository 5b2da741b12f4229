<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, Problem, type Schemas } from '../api/client';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';

  interface Props {
    open: boolean;
    orderId: number;
    problem: string;
  }
  let { open = $bindable(), orderId, problem }: Props = $props();

  const PARTS = [
    ['name', 'Name'],
    ['street', 'Street'],
    ['postcode', 'Postcode'],
    ['city', 'Town'],
    ['country', 'Country, two letters']
  ] as const;
  const client = useQueryClient();
  let address = $state<Schemas['Address']>();
  let seen = $state('');
  let wrong = $state<Problem>();
  const order = createQuery(() => ({
    queryKey: ['order', orderId],
    queryFn: () => get(api.GET('/api/orders/{id}', { params: { path: { id: orderId } } })),
    enabled: open
  }));
  // once: what is being typed is not overwritten by later news of the order
  $effect(() => {
    if (order.data && !address) {
      address = { ...order.data.shipTo };
      seen = order.data.shipToTag;
    }
  });

  async function save(event: SubmitEvent) {
    event.preventDefault();
    if (!address) return;
    try {
      const params = { path: { id: orderId }, header: { 'If-Match': seen } };
      await get(api.PUT('/api/orders/{id}/address', { params, body: address }));
      open = false;
      toasts.say('Address corrected; the order goes on');
      await client.invalidateQueries();
    } catch (error) {
      wrong = error instanceof Problem ? error : new Problem(0, String(error));
    }
  }
</script>

<Dialog bind:open title="Where does it go?">
  <form onsubmit={save} class="space-y-2">
    <p class="text-soft">{problem}</p>
    {#if address}
      {#each PARTS as [part, label] (part)}
        <label class="block text-soft"
          >{label}
          <input
            class={['field mt-0.5 block w-full', wrong?.field === part && 'border-madder']}
            bind:value={address[part]}
            aria-invalid={wrong?.field === part}
          />
        </label>
      {/each}
    {/if}
    <p class="min-h-5 text-madder" role="alert">{wrong?.message ?? ''}</p>
    <Button main type="submit">Correct</Button>
  </form>
</Dialog>
