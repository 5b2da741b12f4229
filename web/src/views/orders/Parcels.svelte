<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { day, fullMoment, moment, plural, stands } from '../../parts/format';

  let { sheet }: { sheet: Schemas['OrderSheetsSheet'] } = $props();

  const WORDS: Record<string, string> = {
    ACCEPTED: 'accepted',
    MOVING: 'under way',
    OUT: 'out for delivery',
    DELIVERED: 'delivered'
  };
</script>

{#each sheet.consignments as consignment (consignment.id)}
  <section class="mb-4">
    <h3 class="font-[650]">
      <a class="hover:underline" href="#/dispatch/bench/{consignment.id}">{consignment.number}</a>
      <span class="font-normal text-soft"
        >from {consignment.node}, {plural(consignment.units, 'unit')}, {stands(
          consignment.state,
          !consignment.carrier
        )}</span
      >
    </h3>
    <p class="text-soft">
      {#if consignment.carrier}{consignment.carrier}
        {consignment.service} · leaves by {day(consignment.shipBy)} · arrives {day(consignment.arrivalOn)}
      {:else}The buyer collects it · to be ready by {day(consignment.shipBy)}{/if}
    </p>
    {#if consignment.nodeClosed}<p class="text-madder">
        ✕ {consignment.node} is closed on {day(consignment.handOverOn)}:
        <a class="underline" href="#/network">move what it has</a>
      </p>{/if}
    {#each consignment.parcels as parcel (parcel.id)}
      <p class="mt-1.5">
        <a
          class="font-mono text-xs text-verdigris underline"
          href={parcel.trackingUrl}
          target="_blank"
          rel="noreferrer">{parcel.tracking}</a
        >
        <a
          class="ms-3 text-verdigris hover:underline"
          href="/api/dispatch/parcels/{parcel.id}/label.pdf"
          target="_blank">label</a
        >
        <a
          class="ms-3 text-verdigris hover:underline"
          href="/api/dispatch/consignments/{consignment.id}/slip.pdf"
          target="_blank">packing slip</a
        >
      </p>
      <ol class="mt-1 border-l border-line ps-3">
        {#each parcel.scans.toReversed() as scan (scan.code + scan.at)}
          <li>
            <span class="text-soft" title={fullMoment(scan.at)}>{moment(scan.at)}</span>
            {WORDS[scan.code] ?? scan.code}, {scan.place}
          </li>
        {:else}
          <li class="text-soft">No scan yet</li>
        {/each}
      </ol>
    {:else}
      <p class="mt-1 text-soft">No parcel yet: it is made when the packing bench asks for the label.</p>
    {/each}
  </section>
{:else}
  <p class="text-soft">Nothing is on its way yet. Parcels appear here once the order is routed and packed.</p>
{/each}
