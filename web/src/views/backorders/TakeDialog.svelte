<!-- Who holds what an order waits for; what it would do to take it from one of them, before it is done. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { count, day } from '../../parts/format';
  import { useDoing } from '../../state/doing';

  interface Props {
    open: boolean;
    order: number;
    item: number;
    ondone: () => void;
  }
  let { open = $bindable(), order, item, ondone }: Props = $props();

  let from = $state(0);
  const run = useDoing();
  const holders = createQuery(() => ({
    queryKey: ['backorders', 'holders', order, item],
    queryFn: () =>
      get(
        api.GET('/api/backorders/orders/{id}/holders', {
          params: { path: { id: order }, query: { itemId: item } }
        })
      )
  }));
  const seen = createQuery(() => ({
    queryKey: ['backorders', 'take', order, from],
    queryFn: () => get(api.POST('/api/backorders/take/preview', { body: { order, from } })),
    enabled: from > 0,
    retry: false,
    gcTime: 0
  }));

  async function take() {
    open = false;
    await run(
      get(api.POST('/api/backorders/take', { body: { order, from } })),
      `${seen.data?.orderNumber ?? 'It'} is sent now`
    );
    ondone();
  }
</script>

<Dialog bind:open wide title="Take it from another order">
  {#if holders.data?.length}
    <p class="text-soft">
      These hold it and nobody has begun to pack them; those of a lower class stand first.
    </p>
    <div class="max-h-72 overflow-y-auto">
      <table class="w-full">
        <tbody>
          {#each holders.data as h (h.orderId + h.node)}
            <tr class={['border-t border-line first:border-0', from === h.orderId && 'bg-verdigris-wash']}>
              <td class="py-1 ps-1"
                ><label class="flex gap-2"
                  ><input type="radio" class="accent-verdigris" value={h.orderId} bind:group={from} /><span
                    class="font-mono text-xs">{h.orderNumber}</span
                  > <span dir="auto">{h.buyer}</span></label
                ></td
              >
              <td class="px-2">class {h.priority}{h.lower ? ', lower' : ''}</td>
              <td class="px-2 text-right">{count(h.units)} at {h.node}</td>
              <td class="px-2 text-right">leaves by {day(h.shipBy)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    <p role="status">
      {#if !from}<span class="text-soft">Choose one to see what it does.</span>
      {:else if seen.data}<b class="font-[650]">{seen.data.orderNumber}</b>
        {seen.data.becomes}; <b class="font-[650]">{seen.data.fromNumber}</b>
        {seen.data.fromBecomes}.
      {:else if seen.isError}<span class="text-madder">✕ {seen.error.message}</span>
      {:else}Looking…{/if}
    </p>
    <p class="flex gap-2">
      <Button main disabled={!seen.data} onclick={() => void take()}>Take it</Button>
      <Button onclick={() => (open = false)}>Leave it</Button>
    </p>
  {:else}
    <p class="text-soft">
      {holders.isPending
        ? 'Looking who holds some…'
        : 'No order holds any of it that could give it: what is held is being packed already.'}
    </p>
  {/if}
</Dialog>
