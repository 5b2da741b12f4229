<!-- One routing decision with its grounds. -->
<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { day, fullMoment, moment, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { ruledOut } from './why';

  let { decision }: { decision: Schemas['DecisionsDecision'] } = $props();

  const PARTS = [
    ['carriage', 'carriage', 'var(--verdigris)'],
    ['handling', 'handling', 'var(--sky)'],
    ['purchase', 'purchase', 'var(--soft)'],
    ['lateness', 'lateness', 'var(--madder)']
  ] as const;
  const BAR = 72;

  /** The rung that decided, or the last one tried. */
  const shown = (d: Schemas['DecisionsDecision']) => {
    const rung = d.rung ?? d.rungs - 1;
    return d.considered
      .filter((c) => c.rung === rung)
      .toSorted((a, b) => Number(a.ruledOut !== null) - Number(b.ruledOut !== null) || a.total - b.total);
  };
  type Decision = Schemas['DecisionsDecision'];
  type Part = Schemas['GroundsJsonStoredPart'];
  const ofPart = (p: Part) =>
    p.cost.carriage + p.cost.handling + p.cost.purchase - p.cost.clearance + p.cost.lateness;
  /** What there is a colour to explain of. */
  const partsOf = (d: Decision) =>
    PARTS.filter(([key]) => shown(d).some((c) => c[key]) || d.chosen.some((p) => p.cost[key]));
  const isSplit = (d: Decision) => d.chosen.length > 1;
  const dearest = (d: Decision) =>
    Math.max(
      1,
      ...shown(d).map((c) => c.total + c.clearance),
      ...d.chosen.map((p) => ofPart(p) + p.cost.clearance)
    );
  const names = (d: Decision, parts: Part[]) => parts.map((p) => d.nodeNames[p.node] ?? p.node).join(' + ');
</script>

{#snippet bar(of: Record<(typeof PARTS)[number][0], number>, total: number, by: string, d: Decision)}
  <span
    class="flex items-center gap-px"
    title="{by}: {PARTS.filter(([key]) => of[key])
      .map(([key, name]) => `${name} ${money(of[key], d.currency)}`)
      .join(', ')}"
  >
    {#each PARTS as [key, , colour] (key)}
      <i class="h-[9px]" style:width="{(BAR * of[key]) / dearest(d)}px" style:background={colour}></i>
    {/each}
    <span class="ms-2">{money(total, d.currency)}</span>
  </span>
{/snippet}

<p class="mb-2">
  {#if decision.chosen.length}
    <b class="font-[650]">{names(decision, decision.chosen)}</b>
    <span class="text-soft"
      >· {decision.overrideReason
        ? `by hand, ${decision.actor}: “${decision.overrideReason}”`
        : `rung ${(decision.rung ?? 0) + 1} of ${decision.rungs}, “${decision.rungName}” · edition ${decision.edition}`}
      ·
    </span>
  {:else}
    <b class="font-[650]">No node can</b>
    <span class="text-soft"
      >· {decision.rungs} rungs tried, the last is shown · edition {decision.edition} ·
    </span>
  {/if}
  <time class="text-soft" datetime={decision.at} title={fullMoment(decision.at)}>{moment(decision.at)}</time>
</p>
<table class="w-full text-[0.78rem]">
  <thead
    ><tr
      ><th class="py-1 ps-2">{isSplit(decision) ? 'Sent from' : 'Candidate'}</th><th class="px-2"
        >Leaves → arrives</th
      ><th class="px-2">Cost, {decision.currency}</th></tr
    ></thead
  >
  <tbody>
    {#if isSplit(decision)}
      {#each decision.chosen as part (part.node)}
        <tr class="h-[30px] border-t border-line bg-verdigris-wash">
          <td class="ps-2 font-[650] shadow-[inset_3px_0_var(--verdigris)]"
            ><span class="whitespace-nowrap">{decision.nodeNames[part.node] ?? part.node}</span>
            <span class="block font-normal text-soft">{plural(part.units, 'unit')}</span></td
          >
          <td class="px-2 whitespace-nowrap text-soft">{day(part.handOver)} → {day(part.arrival)}</td>
          <td class="px-2"
            >{@render bar(part.cost, ofPart(part), `${part.carrier} ${part.service}`, decision)}</td
          >
        </tr>
      {/each}
      <tr class="h-[30px] border-t border-line text-soft">
        <td class="ps-2" colspan="3"
          >{money(decision.cost, decision.currency)} in all, with {money(
            decision.splitPenalty,
            decision.currency
          )} for sending {decision.chosen.length} parcels{decision.proven
            ? ''
            : '; the best that was found, not proven to be the cheapest'}</td
        >
      </tr>
      <tr><th class="py-1 ps-2 pt-3" colspan="3">Alone</th></tr>
    {/if}
    {#each shown(decision) as c (c.node)}
      {@const chosen = !isSplit(decision) && c.node === decision.chosen[0]?.node}
      <tr class={['h-[30px] border-t border-line', chosen && 'bg-verdigris-wash']}>
        <td class={['ps-2', chosen && 'font-[650] shadow-[inset_3px_0_var(--verdigris)]']}
          ><span class="whitespace-nowrap">{decision.nodeNames[c.node] ?? c.node}</span></td
        >
        {#if c.ruledOut}
          <td colspan="2" class="px-2 text-soft">✕ {ruledOut(c)}</td>
        {:else}
          <td class="px-2 whitespace-nowrap text-soft"
            >{c.handOver ? day(c.handOver) : ''} → {c.arrival ? day(c.arrival) : ''}</td
          >
          <td class="px-2">
            {@render bar(c, c.total, `${c.carrier} ${c.service}`, decision)}
          </td>
        {/if}
      </tr>
    {/each}
  </tbody>
</table>
<p class="mt-2 flex gap-3.5 text-xs text-soft">
  {#each partsOf(decision) as [key, name, colour] (key)}
    <span><i class="me-1 inline-block size-[9px]" style:background={colour}></i>{name}</span>
  {/each}
  {#if decision.second.length}
    <span class="ms-auto"
      >runner-up: {names(decision, decision.second)}, + {money(
        decision.secondCost - decision.cost,
        decision.currency
      )}</span
    >
  {/if}
</p>
