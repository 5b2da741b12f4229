<!-- What can be done with the chosen orders that wait. -->
<script lang="ts">
  import Button from '../../parts/Button.svelte';
  import { plural } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import ActDialog, { type Action } from './ActDialog.svelte';
  import TakeDialog from './TakeDialog.svelte';
  import { useTelling } from './telling';

  interface Props {
    orders: number[];
    item: number;
    ondone: () => void;
  }
  let { orders, item, ondone }: Props = $props();

  let acting = $state<Action>();
  let taking = $state(false);
  const tell = useTelling();
  async function told(how: 'tell' | 'ask') {
    await tell(how, orders);
    ondone();
  }
</script>

{#if session.mayChange}
  <div class="flex flex-wrap items-center gap-2 border-t border-line bg-sunk px-4 py-2.5">
    <b class="font-[650]">{plural(orders.length, 'order')}</b>
    <Button small onclick={() => (acting = 'RELEASE')}>Send now…</Button>
    <Button small onclick={() => (acting = 'IN_PART')}>Send in part…</Button>
    <Button small onclick={() => (acting = 'WHOLE')}>Wait whole…</Button>
    <Button small onclick={() => (acting = 'REPLACE')}>Send something else…</Button>
    <Button small onclick={() => (acting = 'CANCEL')}>Cancel…</Button>
    {#if orders.length === 1}<Button small onclick={() => (taking = true)}>Take from another…</Button>{/if}
    <Button small title="Promises the day that is to be expected now" onclick={() => void told('tell')}
      >Tell the new day</Button
    >
    <Button small title="To wait, take something else, or cancel" onclick={() => void told('ask')}
      >Ask the buyer</Button
    >
    <span class="ms-auto"><Button small onclick={ondone}>Choose none</Button></span>
  </div>
{/if}
{#if acting}
  <ActDialog
    bind:open={() => true, (yes) => (acting = yes ? acting : undefined)}
    {orders}
    action={acting}
    {ondone}
  />
{/if}
{#if taking && orders[0]}<TakeDialog bind:open={taking} order={orders[0]} {item} {ondone} />{/if}
