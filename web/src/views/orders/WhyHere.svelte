<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import { day, fullMoment, money, moment } from '../../parts/format';

  let { id }: { id: number } = $props();

  type Candidate = Schemas['GroundsJsonStoredCandidate'];
  const decisions = createQuery(() => ({
    queryKey: ['decisions', id],
    queryFn: () => get(api.GET('/api/orders/{id}/decisions', { params: { path: { id } } }))
  }));
  const PARTS = [
    ['carriage', 'carriage', 'var(--verdigris)'],
    ['handling', 'handling', 'var(--sky)'],
    ['purchase', 'purchase', 'var(--soft)'],
    ['lateness', 'lateness', 'var(--madder)']
  ] as const;
  const BAR = 120;

  const why = (c: Candidate) => {
    const skus = c.skus.join(', ');
    switch (c.ruledOut) {
      case 'NOT_SERVING':
        return 'does not serve this channel';
      case 'COLLECTED_ELSEWHERE':
        return 'the buyer collects it elsewhere';
      case 'NOT_ON_RUNG':
        return 'not on this rung';
      case 'EXCLUDED_BY_RULE':
        return 'excluded by a rule';
      case 'NO_STOCK':
        return `not enough of ${skus}`;
      case 'MAY_NOT_TRAVEL':
        return `${skus} may not travel from there`;
      case 'NO_LANE':
        return 'no carrier goes there as asked';
      case 'TOO_LATE':
        return 'would arrive too late';
      default:
        return 'at capacity that day';
    }
  };
  /** The rung that decided, or the last one tried. */
  const shown = (d: Schemas['DecisionDecision']) => {
    const rung = d.rung ?? d.rungs - 1;
    return d.considered
      .filter((c) => c.rung === rung)
      .toSorted((a, b) => Number(a.ruledOut !== null) - Number(b.ruledOut !== null) || a.total - b.total);
  };
  const dearest = (d: Schemas['DecisionDecision']) =>
    Math.max(1, ...shown(d).map((c) => c.total + c.clearance));
  const difference = (d: Schemas['DecisionDecision']) => {
    const second = shown(d).find((c) => c.node === d.runnerUp);
    return second ? second.total - d.cost : undefined;
  };
</script>

{#each decisions.data ?? [] as decision, i (decision.at)}
  <section class={i ? 'mt-6 opacity-80' : ''}>
    <p class="mb-2">
      {#if decision.chosen}
        <b class="font-[650]">{decision.nodeNames[decision.chosen]}</b>
        <span class="text-soft"
          >· rung {(decision.rung ?? 0) + 1} of {decision.rungs}, “{decision.rungName}” · edition {decision.edition}
          ·
        </span>
      {:else}
        <b class="font-[650]">No node can</b>
        <span class="text-soft"
          >· {decision.rungs} rungs tried, the last is shown · edition {decision.edition} ·
        </span>
      {/if}
      <time class="text-soft" datetime={decision.at} title={fullMoment(decision.at)}
        >{moment(decision.at)}</time
      >
    </p>
    <table class="w-full text-[0.78rem]">
      <thead
        ><tr
          ><th class="py-1 ps-2">Candidate</th><th class="px-2">Leaves → arrives</th><th class="px-2"
            >Cost, {decision.currency}</th
          ></tr
        ></thead
      >
      <tbody>
        {#each shown(decision) as c (c.node)}
          {@const chosen = c.node === decision.chosen}
          <tr class={['h-[30px] border-t border-line', chosen && 'bg-verdigris-wash']}>
            <td class={['ps-2', chosen && 'font-[650] shadow-[inset_3px_0_var(--verdigris)]']}
              >{decision.nodeNames[c.node] ?? c.node}</td
            >
            {#if c.ruledOut}
              <td colspan="2" class="px-2 text-soft">✕ {why(c)}</td>
            {:else}
              <td class="px-2 whitespace-nowrap text-soft"
                >{c.handOver ? day(c.handOver) : ''} → {c.arrival ? day(c.arrival) : ''}</td
              >
              <td class="px-2">
                <span
                  class="flex items-center gap-px"
                  title="{c.carrier} {c.service}: {PARTS.filter(([key]) => c[key])
                    .map(([key, name]) => `${name} ${money(c[key], decision.currency)}`)
                    .join(', ')}"
                >
                  {#each PARTS as [key, , colour] (key)}
                    <i
                      class="h-[9px]"
                      style:width="{(BAR * c[key]) / dearest(decision)}px"
                      style:background={colour}
                    ></i>
                  {/each}
                  <span class="ms-2">{money(c.total, decision.currency)}</span>
                </span>
              </td>
            {/if}
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="mt-2 flex gap-3.5 text-xs text-soft">
      {#each PARTS.slice(0, 2) as [key, name, colour] (key)}
        <span><i class="me-1 inline-block size-[9px]" style:background={colour}></i>{name}</span>
      {/each}
      {#if difference(decision) !== undefined}
        <span class="ms-auto">runner-up + {money(difference(decision) ?? 0, decision.currency)}</span>
      {/if}
    </p>
  </section>
{:else}
  <p class="text-soft">
    {decisions.isPending
      ? 'Reading…'
      : 'Not routed yet. Once it is, each node looked at stands here with its cost, or with what ruled it out.'}
  </p>
{/each}
