<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get, Problem, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import MoneyField from '../../parts/MoneyField.svelte';
  import { go } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import PhoneLine from './PhoneLine.svelte';

  let { open = $bindable() }: { open: boolean } = $props();

  type Order = Schemas['ByHandHandOrder'];
  const client = useQueryClient();
  const line = () => ({ sku: '', quantity: 1, unitPrice: null, wish: '' });
  let order = $state<Order>({
    // the same click twice is the same order
    once: crypto.randomUUID(),
    buyer: { name: '', email: '', phone: '' },
    shipTo: { name: '', street: '', postcode: '', city: '', country: 'NL' },
    service: '',
    arriveBy: null,
    payment: 'UNPAID',
    shippingCharge: 0,
    discount: 0,
    instructions: '',
    giftMessage: '',
    lines: [line()]
  });
  let wrong = $state<Problem>();
  let busy = $state(false);

  async function enter(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    wrong = undefined;
    try {
      const body: Order = {
        ...order,
        arriveBy: order.arriveBy || null,
        shipTo: {
          ...order.shipTo,
          name: order.shipTo.name || order.buyer.name,
          country: order.shipTo.country.toUpperCase()
        },
        lines: order.lines.filter((l) => l.sku.trim())
      };
      const { id } = await get(api.POST('/api/intake/by-hand', { body }));
      open = false;
      toasts.say('Entered; it goes its way');
      await client.invalidateQueries();
      go(`/orders/${id}?pile=ALL`);
    } catch (error) {
      wrong = error instanceof Problem ? error : new Problem(0, String(error));
    } finally {
      busy = false;
    }
  }
</script>

<Dialog bind:open title="An order by telephone" wide>
  <form onsubmit={enter} class="space-y-3">
    <div class="grid grid-cols-3 gap-x-3 gap-y-2">
      <label class="text-soft"
        >Buyer <input
          class="field mt-0.5 block w-full"
          bind:value={order.buyer.name}
          required
          data-autofocus
        /></label
      >
      <label class="text-soft"
        >Phone <input
          class="field mt-0.5 block w-full"
          bind:value={order.buyer.phone}
          maxlength="40"
        /></label
      >
      <label class="text-soft"
        >Mail <input class="field mt-0.5 block w-full" type="email" bind:value={order.buyer.email} /></label
      >
      <label class="col-span-2 text-soft"
        >Street <input class="field mt-0.5 block w-full" bind:value={order.shipTo.street} required /></label
      >
      <label class="text-soft"
        >Receiver, if another <input
          class="field mt-0.5 block w-full"
          bind:value={order.shipTo.name}
        /></label
      >
      <label class="text-soft"
        >Postcode <input class="field mt-0.5 block w-full" bind:value={order.shipTo.postcode} /></label
      >
      <label class="text-soft"
        >Town <input class="field mt-0.5 block w-full" bind:value={order.shipTo.city} required /></label
      >
      <label class="text-soft"
        >Country <input
          class="field mt-0.5 block w-full uppercase"
          maxlength="2"
          bind:value={order.shipTo.country}
          required
        /></label
      >
    </div>
    <fieldset class="border-t border-line pt-2">
      <legend class="sr-only">Lines</legend>
      {#each { length: order.lines.length }, i (i)}
        <PhoneLine bind:line={order.lines[i]!} onremove={() => order.lines.splice(i, 1)} />
      {/each}
      <Button small onclick={() => order.lines.push(line())}>Another line</Button>
    </fieldset>
    <div class="grid grid-cols-4 gap-x-3 border-t border-line pt-2">
      <label class="text-soft"
        >Payment
        <select class="field mt-0.5 block w-full" bind:value={order.payment}>
          <option value="UNPAID">to be paid</option><option value="PAID">paid</option>
          <option value="ON_DELIVERY">on delivery</option>
        </select></label
      >
      <label class="text-soft"
        >Shipping
        <MoneyField
          class="field mt-0.5 block w-full text-right"
          currency={session.base}
          value={order.shippingCharge}
          ontype={(minor) => (order.shippingCharge = minor ?? 0)}
        /></label
      >
      <label class="text-soft"
        >Discount
        <MoneyField
          class="field mt-0.5 block w-full text-right"
          currency={session.base}
          value={order.discount}
          ontype={(minor) => (order.discount = minor ?? 0)}
        /></label
      >
      <label class="text-soft"
        >To arrive by
        <input class="field mt-0.5 block w-full" type="date" bind:value={order.arriveBy} /></label
      >
    </div>
    <div class="grid grid-cols-2 gap-x-3">
      <label class="text-soft"
        >Instructions for packing
        <input class="field mt-0.5 block w-full" bind:value={order.instructions} maxlength="1000" /></label
      >
      <label class="text-soft"
        >Gift message
        <input class="field mt-0.5 block w-full" bind:value={order.giftMessage} maxlength="1000" /></label
      >
    </div>
    <p class="min-h-5 text-madder" role="alert">
      {wrong ? `${wrong.field ? `${wrong.field}: ` : ''}${wrong.message}` : ''}
    </p>
    <Button main type="submit" disabled={busy}>Enter the order</Button>
  </form>
</Dialog>
