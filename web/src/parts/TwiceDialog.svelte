<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../api/client';
  import { useDoing } from '../state/doing';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';
  import { fullMoment, word } from './format';
  import { money } from './money';

  interface Props {
    open: boolean;
    orderId: number;
    title: string;
  }
  let { open = $bindable(), orderId, title }: Props = $props();

  const run = useDoing();
  const at = (id: number) => ({ params: { path: { id } } });
  const pair = createQuery(() => ({
    queryKey: ['orders', orderId, 'twice'],
    queryFn: async () => {
      const ids = await get(api.GET('/api/orders/{id}/twice', at(orderId)));
      return Promise.all(ids.map((id) => get(api.GET('/api/orders/{id}', at(id)))));
    },
    enabled: open,
    retry: false
  }));

  async function act(what: Promise<unknown>, done: string) {
    open = false;
    await run(what, done);
  }
  const cancel = (order: { id: number; number: string }) =>
    act(
      get(api.POST('/api/orders/{id}/cancel', { ...at(order.id), body: { reason: 'it was ordered twice' } })),
      `${order.number} is cancelled`
    );
  const keep = () => act(get(api.POST('/api/orders/{id}/twice/keep-both', at(orderId))), 'Both go on');
</script>

<Dialog bind:open {title} wide>
  <p class="text-soft">
    The same buyer ordered the same goods within hours. Both go on until you cancel one.
  </p>
  <div class="grid grid-cols-2 gap-4">
    {#each pair.data ?? [] as sheet (sheet.order.id)}
      {@const order = sheet.order}
      <section class="rounded-md border border-line p-3" aria-label={order.number}>
        <a
          class="font-[650] text-verdigris hover:underline"
          href="#/orders/{order.id}?pile=ALL"
          target="_blank">{order.number}</a
        >
        <p class="text-soft">{order.channel}, {fullMoment(order.placedAt)}</p>
        <ul class="my-2">
          {#each sheet.lines as line (line.id)}<li>{line.quantity - line.cancelled} × {line.title}</li>{/each}
        </ul>
        <p class="mb-2">{money(order.total, order.currency)}, {word(sheet.payment)}, {word(order.stage)}</p>
        <Button onclick={() => void cancel(order)}>Cancel {order.number}</Button>
      </section>
    {/each}
  </div>
  {#if pair.isError}<p class="text-madder" role="alert">{pair.error.message}</p>{/if}
  <Button main onclick={() => void keep()}>Keep both</Button>
</Dialog>
