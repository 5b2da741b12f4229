<script lang="ts">
  import { api, get } from '../api/client';
  import { useDoing } from '../state/doing';
  import AddressDialog from './AddressDialog.svelte';
  import AmendmentDialog from './AmendmentDialog.svelte';
  import Button from './Button.svelte';
  import CarrierDialog from './CarrierDialog.svelte';
  import ChoiceDialog from './ChoiceDialog.svelte';
  import CancelledDialog from './CancelledDialog.svelte';
  import KeptDialog from './KeptDialog.svelte';
  import MatchDialog from './MatchDialog.svelte';
  import RatesDialog from './RatesDialog.svelte';
  import TwiceDialog from './TwiceDialog.svelte';
  import RefusedDialog from './RefusedDialog.svelte';
  import type { SnagLike } from './snags';
  import WordingDialog from './WordingDialog.svelte';

  interface Props {
    snag: SnagLike;
    main?: boolean;
    key?: string;
  }
  let { snag, main = false, key }: Props = $props();

  let open = $state(false);
  let keeping = $state(false);
  const run = useDoing();

  /** The first suggested action; also what `e` does. */
  export function act() {
    switch (snag.cause) {
      case 'NOT_TOLD':
        if (snag.outboxId != null) {
          const path = { message: snag.outboxId };
          void run(
            get(api.POST('/api/orders/messages/{message}/try-again', { params: { path } })),
            'Trying again'
          );
        }
        break;
      case 'STEP_FAILED':
      case 'NOT_TRACKED':
        if (snag.orderId != null)
          void run(
            get(api.POST('/api/orders/{id}/try-again', { params: { path: { id: snag.orderId } } })),
            'Trying again'
          );
        break;
      case 'TOTAL_DIFFERS':
        if (snag.orderId != null)
          void run(
            get(api.POST('/api/orders/{id}/total/accept', { params: { path: { id: snag.orderId } } })),
            'The channel’s total stands'
          );
        break;
      case 'LEDGER_DIFFERS':
        if (snag.itemId != null)
          void run(
            get(api.POST('/api/stock/items/{id}/mend', { params: { path: { id: snag.itemId } } })),
            'The level is what its ledger says'
          );
        break;
      case 'NO_STOCK':
        location.hash = `#/backorders/${snag.itemId}`;
        break;
      case 'NOT_TO_WAIT':
        if (snag.orderId != null)
          void run(
            get(api.POST('/api/orders/{id}/let-wait', { params: { path: { id: snag.orderId } } })),
            'It waits'
          );
        break;
      case 'DEPOT_SHORT':
      case 'SUPPLY_OVERDUE':
        location.hash = `#/stock/${snag.itemId}`;
        break;
      case 'FEED_HELD':
        location.hash = `#/channels?c=${snag.channelId}&tab=feed`;
        break;
      case 'HOOK_FAILS':
        location.hash = `#/channels?c=${snag.channelId}&tab=exchanges`;
        break;
      case 'NODES_FULL':
        location.hash = `#/orders?pile=STUCK&snag=${snag.id}`;
        break;
      case 'RULE_TOO_COSTLY':
        location.hash = '#/rulebook';
        break;
      case 'PARCEL_TROUBLE':
      case 'SENT_UNWANTED':
        location.hash = `#/orders/${snag.orderId}?tab=parcels`;
        break;
      case 'MONEY_TO_RETURN':
        location.hash = `#/orders/${snag.orderId}?pile=ALL&tab=lines`;
        break;
      case 'NO_ROUTE':
        location.hash = `#/orders/${snag.orderId}?tab=why`;
        break;
      default:
        open = true;
    }
  }

  function settle() {
    if (snag.outboxId == null) return;
    const params = { path: { message: snag.outboxId } };
    void run(get(api.POST('/api/orders/messages/{message}/settle', { params })), 'Settled by hand');
  }

  function settleParcels() {
    if (snag.orderId == null) return;
    const params = { path: { id: snag.orderId } };
    void run(get(api.POST('/api/orders/{id}/parcels/settle', { params })), 'Settled by hand');
  }

  function letBe() {
    if (snag.orderId == null) return;
    void run(get(api.POST('/api/orders/{id}/let-be', { params: { path: { id: snag.orderId } } })), 'Let be');
  }

  const LABEL: Record<SnagLike['cause'], string> = {
    UNMATCHED_LISTING: 'Match',
    UNKNOWN_SERVICE: 'Say what it means',
    BAD_ADDRESS: 'Fill in',
    CHOICE_OPEN: 'Choose',
    NO_STOCK: 'See who waits',
    NOT_TO_WAIT: 'Let it wait',
    NO_ROUTE: 'See why',
    NODES_FULL: 'See orders',
    UNREADABLE_ORDER: 'Correct',
    CHANGED_BY_CHANNEL: 'Compare',
    CANCELLED_TOO_LATE: 'Decide',
    SENT_UNWANTED: 'Open a return',
    NO_RATE: 'Give the rate',
    DEPOT_SHORT: 'See stock',
    LEDGER_DIFFERS: 'Follow the ledger',
    SUPPLY_OVERDUE: 'Say when it comes',
    UNKNOWN_CARRIER: 'Name it',
    FEED_HELD: 'See the lines',
    NOT_TOLD: 'Try again',
    HOOK_FAILS: 'See what it said',
    STEP_FAILED: 'Try again',
    NOT_TRACKED: 'Try again',
    TOTAL_DIFFERS: 'Let it stand',
    PARCEL_TROUBLE: 'See the parcel',
    RULE_TOO_COSTLY: 'See the rule',
    ORDERED_TWICE: 'Compare',
    MONEY_TO_RETURN: 'Pay back'
  };
</script>

<Button small {main} {key} onclick={act}>{LABEL[snag.cause]}</Button>
{#if snag.cause === 'NOT_TOLD'}
  <Button small title="It was told in another way, or need not be" onclick={settle}>Settle by hand</Button>
{/if}
{#if snag.cause === 'PARCEL_TROUBLE'}
  <Button small title="The carrier was asked, or the goods are on their way back" onclick={settleParcels}
    >Settle by hand</Button
  >
{/if}
{#if snag.cause === 'SENT_UNWANTED'}
  <Button small title="The buyer keeps it, or it comes back another way" onclick={letBe}>Let it be</Button>
{/if}
{#if snag.cause === 'MONEY_TO_RETURN'}
  <Button small onclick={() => (keeping = true)}>Don’t pay back…</Button>
  {#if keeping && snag.orderId != null}<KeptDialog bind:open={keeping} orderId={snag.orderId} {snag} />{/if}
{/if}
{#if open}
  {#if snag.cause === 'UNMATCHED_LISTING' && snag.listingId != null}
    <MatchDialog bind:open listingId={snag.listingId} title={snag.title} />
  {:else if snag.cause === 'UNKNOWN_SERVICE' && snag.channelId != null}
    <WordingDialog bind:open channelId={snag.channelId} wording={snag.title} />
  {:else if snag.cause === 'BAD_ADDRESS' && snag.orderId != null}
    <AddressDialog bind:open orderId={snag.orderId} problem={snag.detail} />
  {:else if snag.cause === 'CHOICE_OPEN' && snag.orderId != null}
    <ChoiceDialog bind:open orderId={snag.orderId} title={snag.title} />
  {:else if snag.cause === 'UNREADABLE_ORDER' && snag.refusedId != null}
    <RefusedDialog bind:open refusedId={snag.refusedId} />
  {:else if snag.cause === 'CHANGED_BY_CHANNEL' && snag.orderId != null}
    <AmendmentDialog bind:open orderId={snag.orderId} />
  {:else if snag.cause === 'CANCELLED_TOO_LATE' && snag.orderId != null}
    <CancelledDialog bind:open orderId={snag.orderId} title={snag.title} detail={snag.detail} />
  {:else if snag.cause === 'UNKNOWN_CARRIER' && snag.channelId != null}
    <CarrierDialog bind:open channelId={snag.channelId} title={snag.title} />
  {:else if snag.cause === 'ORDERED_TWICE' && snag.orderId != null}
    <TwiceDialog bind:open orderId={snag.orderId} title={snag.title} />
  {:else if snag.cause === 'NO_RATE'}
    <RatesDialog bind:open currency={snag.title.slice(0, 3)} />
  {/if}
{/if}
