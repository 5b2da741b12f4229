<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../api/client';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';

  interface Props {
    open: boolean;
    orderId: number;
  }
  let { open = $bindable(), orderId }: Props = $props();

  const client = useQueryClient();
  let problem = $state('');
  const order = createQuery(() => ({
    queryKey: ['order', orderId],
    queryFn: () => get(api.GET('/api/orders/{id}', { params: { path: { id: orderId } } })),
    enabled: open
  }));
  const amendment = $derived(order.data?.amendments[0]);
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
  const keepOurs = () => settle(get(api.POST('/api/orders/{id}/keep-ours', path)), 'Kept as it was taken in');
  const takeTheirs = () =>
    settle(get(api.POST('/api/orders/{id}/take-theirs', path)), 'Changed; it is routed anew');
</script>

<Dialog bind:open title="{order.data?.order.number ?? 'The order'} was changed after its release" wide>
  {#if amendment}
    <table class="w-full">
      <thead
        ><tr
          ><th class="py-1 pe-3">What</th><th class="pe-3">As we have it</th><th>As the channel has it now</th
          ></tr
        ></thead
      >
      <tbody>
        {#each amendment.changes as change, i (i)}
          <tr class="border-t border-line align-top">
            <td class="py-1.5 pe-3 text-soft">{change.what}</td>
            <td class="py-1.5 pe-3">{change.before || '—'}</td>
            <td class="py-1.5 font-[650]">{change.after || '—'}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="text-soft">
      {amendment.mayBeTaken
        ? 'Nobody scans, labels or hands over what this is about until you decide. To take theirs, it is taken back from its nodes and routed anew; packed parcels have to be unpacked. Units that have left stay sold: a return of them is proposed.'
        : 'Parcels have left already: what was sent can’t be changed any more.'}
    </p>
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <div class="flex gap-2">
      {#if amendment.mayBeTaken}<Button main onclick={() => void takeTheirs()}>Take theirs</Button>{/if}
      <Button main={!amendment.mayBeTaken} onclick={() => void keepOurs()}>Keep ours</Button>
    </div>
  {:else}
    <p class="text-soft">{order.isPending ? 'Reading…' : 'Nothing waits any more.'}</p>
  {/if}
</Dialog>
