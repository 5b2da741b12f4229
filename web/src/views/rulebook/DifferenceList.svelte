<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { word } from '../../parts/format';
  import { money } from '../../parts/money';
  import { rungWords } from './ladders';
  import { ruleOf } from './model';
  import Sentence from './Sentence.svelte';
  import { session } from '../../state/session.svelte';

  let { differs }: { differs: Schemas['DifferencesFound'] } = $props();

  const SIGN = { ADDED: '+', REMOVED: '−', CHANGED: '±', MOVED: '↕' } as const;
  const none = $derived(!differs.rules.length && !differs.ladders.length && !differs.policyAfter);
  const PRICES = [
    ['splitPenalty', 'another consignment'],
    ['latePenaltyPerDay', 'a day late'],
    ['unfilledPenaltyPerUnit', 'a unit left out'],
    ['rungStep', 'a rung further']
  ] as const;
</script>

{#snippet ladder(of: Schemas['Ladder'])}
  {#each of.rungs as rung, i (rung.name)}<span class="block"
      >{i + 1}. {rung.name}: <span class="text-soft">{rungWords(rung)}</span></span
    >{/each}
{/snippet}

{#if none}
  <p class="text-soft">They say the same.</p>
{:else}
  <ul class="space-y-2">
    {#each differs.rules as d, i (i)}
      <li class="grid grid-cols-[5.5rem_1fr] gap-2">
        <span class={d.how === 'REMOVED' ? 'text-madder' : 'text-verdigris'}>{SIGN[d.how]} {word(d.how)}</span
        >
        <span>
          {#if d.before && d.how === 'CHANGED'}<span class="block text-soft line-through decoration-1"
              ><Sentence rule={ruleOf(d.before)} /></span
            >{/if}
          {#if d.after ?? d.before}<Sentence rule={ruleOf((d.after ?? d.before)!)} />{/if}
          {#if d.before && d.after && d.before.on !== d.after.on}<span class="text-soft"
              >{d.after.on ? ' It is on now.' : ' It is off now.'}</span
            >{/if}
        </span>
      </li>
    {/each}
    {#each differs.ladders as d (d.after?.name ?? d.before?.name)}
      <li class="grid grid-cols-[5.5rem_1fr] gap-2">
        <span class={d.how === 'REMOVED' ? 'text-madder' : 'text-verdigris'}>{SIGN[d.how]} {word(d.how)}</span
        >
        <span>
          <b class="font-[600]">Ladder “{d.after?.name ?? d.before?.name}”</b>
          {#if d.before && d.how !== 'ADDED'}<span class="block text-soft line-through decoration-1"
              >{@render ladder(d.before)}</span
            >{/if}
          {#if d.after}{@render ladder(d.after)}{/if}
        </span>
      </li>
    {/each}
    {#if differs.policyBefore && differs.policyAfter}
      {#each PRICES.filter(([p]) => differs.policyBefore![p] !== differs.policyAfter![p]) as [price, words] (price)}
        <li class="grid grid-cols-[5.5rem_1fr] gap-2">
          <span class="text-verdigris">± price</span>
          <span
            >{words}: {money(differs.policyBefore[price], session.base)} → {money(
              differs.policyAfter[price],
              session.base
            )}</span
          >
        </li>
      {/each}
    {/if}
  </ul>
{/if}
