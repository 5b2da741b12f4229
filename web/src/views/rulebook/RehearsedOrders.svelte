<!-- The orders that would go otherwise; opened, an order shows what was decided beside what would be. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import { count, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { param, setParams } from '../../state/address';
  import DecisionCard from '../orders/DecisionCard.svelte';

  interface Props {
    rehearsal: Schemas['RehearsalRehearsal'];
    byDraft: number;
    /** Orders that the live edition would now send otherwise as well. */
    others: number;
  }
  let { rehearsal, byDraft, others }: Props = $props();

  const SHOWN = 1000;
  const id = $derived(rehearsal.head.id);
  const all = $derived(param('others') === 'yes');
  const open = $derived(Number(param('changed')));
  const orders = createQuery(() => ({
    queryKey: ['rehearsals', id, 'orders', all],
    queryFn: () =>
      get(api.GET('/api/rulebook/rehearsals/{id}/orders', { params: { path: { id }, query: { all } } }))
  }));
  const both = createQuery(() => ({
    queryKey: ['rehearsals', id, 'orders', 'grounds', open],
    enabled: open > 0,
    queryFn: () =>
      get(
        api.GET('/api/rulebook/rehearsals/{id}/orders/{orderId}', {
          params: { path: { id, orderId: open } }
        })
      )
  }));
  const names = $derived(new Map(rehearsal.nodes.map((n) => [n.code, n.name])));
  const from = (codes: string[]) =>
    codes.map((c) => names.get(c) ?? c).join(' + ') || 'nothing could be sent';
  const cost = (minor?: number | null) => (minor == null ? '–' : money(minor, rehearsal.currency));
  function difference(was?: number | null, would?: number | null): string {
    if (was == null || would == null) return '';
    const by = would - was;
    return by ? `${by > 0 ? '+' : '−'} ${money(Math.abs(by), rehearsal.currency)}` : 'same';
  }
</script>

<div class="card overflow-x-auto">
  <table class="w-full">
    <caption class="px-4 pt-2 pb-1 text-left"
      ><span class="flex flex-wrap items-baseline gap-3"
        ><b class="font-[650]">{plural(all ? byDraft + others : byDraft, 'order')} would go otherwise</b>
        {#if others}<label class="text-soft"
            ><input
              class="me-1"
              type="checkbox"
              checked={all}
              onchange={(e) => setParams({ others: e.currentTarget.checked ? 'yes' : '' })}
            />also {count(others)} that the live edition would now send otherwise as well</label
          >{/if}</span
      ></caption
    >
    <thead
      ><tr class="h-8 border-t border-line"
        ><th class="px-4">Order</th><th class="px-2">To</th><th class="px-2">Was sent from</th><th
          class="px-2 text-right">Cost</th
        ><th class="px-2">Would be sent from</th><th class="px-2 text-right">Cost</th><th
          class="px-4 text-right">Difference</th
        ></tr
      ></thead
    >
    <tbody>
      {#each orders.data ?? [] as o (o.orderId)}
        {@const here = o.orderId === open}
        <tr class={['h-8 border-t border-line', here ? 'bg-verdigris-wash' : 'hover:bg-sunk']}>
          <td class="px-4 whitespace-nowrap"
            ><button
              type="button"
              class="text-verdigris hover:underline"
              aria-expanded={here}
              onclick={() => setParams({ changed: here ? '' : String(o.orderId) })}
              >{here ? '▾' : '▸'} {o.number}</button
            >{#if !o.byDraft}<span class="ms-2 text-xs text-soft">not the draft’s doing</span>{/if}</td
          >
          <td class="px-2 text-soft">{o.country}</td>
          <td class="px-2">{from(o.wasNodes)}</td>
          <td class="px-2 text-right tabular-nums">{cost(o.wasCost)}</td>
          <td class="px-2">{from(o.wouldNodes)}</td>
          <td class="px-2 text-right tabular-nums">{cost(o.wouldCost)}</td>
          <td class="px-4 text-right whitespace-nowrap tabular-nums">{difference(o.wasCost, o.wouldCost)}</td>
        </tr>
        {#if here}
          <tr class="border-t border-line bg-sunk">
            <td class="px-4 py-3" colspan="7">
              {#if both.data}
                <div class="grid gap-6 min-[1180px]:grid-cols-2">
                  <section aria-label="As it was decided">
                    <h3 class="mb-1 font-[650]">As it was decided</h3>
                    <DecisionCard decision={both.data.was} />
                  </section>
                  <section aria-label="As the draft would decide">
                    <h3 class="mb-1 font-[650]">As edition {rehearsal.head.edition} would decide</h3>
                    <DecisionCard decision={both.data.would} />
                  </section>
                </div>
                <p class="mt-3">
                  <a class="text-verdigris underline" href="#/orders/{o.orderId}?pile=ALL&tab=why"
                    >Open {o.number}</a
                  >
                </p>
              {:else}<span class="text-soft">{both.isError ? both.error.message : 'Reading…'}</span>{/if}
            </td>
          </tr>
        {/if}
      {/each}
    </tbody>
  </table>
  {#if orders.data?.length === SHOWN}<p class="border-t border-line px-4 py-1.5 text-soft">
      The first {count(SHOWN)}; all of them are in the CSV.
    </p>{/if}
  {#if orders.isError}<p class="px-4 py-2 text-madder">{orders.error.message}</p>{/if}
</div>
