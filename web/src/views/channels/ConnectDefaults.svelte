<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { plural } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';
  import type { Channel } from './health';
  import MoneyField from '../../parts/MoneyField.svelte';

  let { channel: c }: { channel: Channel } = $props();

  type Defaults = Schemas['ConnectingDefaults'];
  const client = useQueryClient();
  let d = $state<Defaults>(
    untrack(() => ({
      prefix: c.prefix,
      approval: c.approval as Defaults['approval'],
      matchBy: c.matchBy as Defaults['matchBy'],
      intervalSeconds: c.intervalSeconds,
      nodes: c.terms.nodes,
      pricesWithTax: c.terms.pricesWithTax,
      discountsWithin: c.terms.discountsWithin,
      tellsUnits: c.terms.tellsUnits,
      tellsNodes: c.terms.tellsNodes,
      feeHundredths: c.terms.feeHundredths,
      fixedFee: c.terms.fixedFee,
      unknownListings: c.terms.unknownListings,
      team: c.terms.team,
      phone: c.terms.phone,
      depot: c.terms.depot
    }))
  );
  let nodes = $state(untrack(() => c.terms.nodes.join(' ')));
  let problem = $state('');
  let busy = $state(false);

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    problem = '';
    try {
      const { listings } = await get(
        api.PUT('/api/connecting/{id}/defaults', {
          params: { path: { id: c.id } },
          body: {
            ...d,
            nodes: nodes
              .toUpperCase()
              .split(/[\s,]+/)
              .filter(Boolean)
          }
        })
      );
      toasts.say(listings ? `${plural(listings, 'listing')} fetched and matched as far as can be` : 'Kept');
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    } finally {
      busy = false;
    }
  }
</script>

<form onsubmit={keep} class="max-w-2xl">
  <div class="grid grid-cols-2 gap-x-6 gap-y-3">
    <label class="text-soft"
      >Our order numbers begin with
      <input class="field mt-1 block w-full font-mono" bind:value={d.prefix} required /></label
    >
    <label class="text-soft"
      >An order is approved
      <select class="field mt-1 block w-full" bind:value={d.approval}>
        <option value="WHEN_AUTHORISED">when its payment is authorised</option>
        <option value="WHEN_PAID">when it is paid</option>
        <option value="BY_HAND">by hand</option>
      </select></label
    >
    <label class="text-soft"
      >Listings are matched by
      <select class="field mt-1 block w-full" bind:value={d.matchBy}>
        <option value="SKU">SKU</option><option value="GTIN">GTIN</option>
        <option value="SUPPLIER_CODE">supplier’s code</option>
      </select></label
    >
    <label class="text-soft"
      >A listing that matches nothing
      <select class="field mt-1 block w-full" bind:value={d.unknownListings}>
        <option value="HOLD">holds its orders until somebody matches it</option>
        <option value="CREATE_ITEM">becomes an item of its own</option>
      </select></label
    >
    <label class="text-soft"
      >Served by nodes <span class="text-xs">(their codes; empty: all)</span>
      <input
        class="field mt-1 block w-full font-mono uppercase"
        bind:value={nodes}
        placeholder="STW CAN"
      /></label
    >
    <label class="text-soft"
      >Its own depot <span class="text-xs">(a node’s code; empty: none)</span>
      <input class="field mt-1 block w-full font-mono uppercase" bind:value={d.depot} /></label
    >
    <label class="text-soft"
      >Its fee, per cent of the price
      <input
        class="field mt-1 block w-full text-right"
        type="number"
        min="0"
        max="100"
        step="0.01"
        value={d.feeHundredths / 100}
        onchange={(event) => (d.feeHundredths = Math.round(event.currentTarget.valueAsNumber * 100))}
      /></label
    >
    <label class="text-soft"
      >and per order, {c.currency}
      <MoneyField
        class="field mt-1 block w-full text-right"
        currency={c.currency}
        value={d.fixedFee}
        ontype={(minor) => (d.fixedFee = minor ?? 0)}
      /></label
    >
    <label class="text-soft"
      >Team
      <input class="field mt-1 block w-full" bind:value={d.team} maxlength="40" /></label
    >
    <label class="text-soft"
      >Phone where the buyer gives none
      <input class="field mt-1 block w-full" bind:value={d.phone} maxlength="40" /></label
    >
    <label class="text-soft"
      >Fetched every so many seconds
      <input
        class="field mt-1 block w-full text-right"
        type="number"
        min="1"
        max="86400"
        bind:value={d.intervalSeconds}
      /></label
    >
    <label class="mt-5 flex items-center gap-1.5"
      ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={d.pricesWithTax} /> prices
      contain tax, where orders don’t say</label
    >
    <label class="mt-5 flex items-center gap-1.5" title="Then discounts are told for information only"
      ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={d.discountsWithin} /> prices
      are less the discounts already</label
    >
    {#if c.kind === 'MACHINE'}
      <label class="mt-5 flex items-center gap-1.5" title="Otherwise only whether there are any"
        ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={d.tellsUnits} /> its pages
        are told how many there are</label
      >
      <label class="mt-5 flex items-center gap-1.5"
        ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={d.tellsNodes} /> and at which
        nodes</label
      >
    {/if}
  </div>
  <p class="min-h-6 pt-1 text-madder" role="alert">{problem}</p>
  <Button main type="submit" disabled={busy}>{busy ? 'Fetching its listings…' : 'Keep that'}</Button>
</form>
