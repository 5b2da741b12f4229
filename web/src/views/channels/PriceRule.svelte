<script lang="ts">
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import MoneyField from '../../parts/MoneyField.svelte';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import type { Channel } from './health';
  import { ENDINGS, type Rule } from './prices';

  interface Props {
    channel: Channel;
    rule: Rule;
    kept: boolean;
    ontype: (rule: Rule) => void;
  }
  let { channel: c, rule, kept, ontype }: Props = $props();

  const run = useDoing();
  const hundredths = (event: Event & { currentTarget: HTMLInputElement }) =>
    Math.max(0, Math.round((event.currentTarget.valueAsNumber || 0) * 100));
  const keep = () =>
    run(
      get(
        api.PUT('/api/channels/{channel}/publishing/rule', {
          params: { path: { channel: c.id } },
          body: rule
        })
      ),
      'Kept. What it changes about listings made from here is shown above, and pushed when you say so'
    );
</script>

<div class="flex flex-wrap items-center gap-x-2 gap-y-1 rounded-sm bg-sunk px-3 py-1.5">
  <span>A price is the cost plus</span>
  <input
    class="field h-7 w-20 text-right"
    type="number"
    min="0"
    step="0.5"
    aria-label="Markup in per cent"
    value={rule.markupHundredths / 100}
    oninput={(event) => ontype({ ...rule, markupHundredths: hundredths(event) })}
  />
  <span>% plus</span>
  <MoneyField
    live
    class="field h-7 w-20 text-right"
    currency={c.currency}
    aria-label="Amount in {c.currency}"
    value={rule.plus}
    ontype={(minor) => ontype({ ...rule, plus: minor ?? 0 })}
  />
  <span>{c.currency}{c.terms.pricesWithTax ? ', with the tax of' : ', ends with'}</span>
  {#if c.terms.pricesWithTax}
    <input
      class="field h-7 w-12 font-mono uppercase"
      maxlength="2"
      aria-label="Country whose tax it contains"
      value={rule.country}
      onchange={(event) => ontype({ ...rule, country: event.currentTarget.value.toUpperCase() })}
    />
  {/if}
  {#if c.terms.pricesWithTax}<span>and ends with</span>{/if}
  <select
    class="field h-7 py-0"
    aria-label="Ending"
    value={rule.ending}
    onchange={(event) => ontype({ ...rule, ending: event.currentTarget.value as Rule['ending'] })}
  >
    {#each ENDINGS as [ending, words] (ending)}<option value={ending}>{words}</option>{/each}
  </select>
  <span>and earns at least</span>
  <input
    class="field h-7 w-20 text-right"
    type="number"
    min="0"
    max="99"
    step="0.5"
    aria-label="Least margin in per cent"
    value={rule.floorHundredths / 100}
    oninput={(event) => ontype({ ...rule, floorHundredths: hundredths(event) })}
  />
  <span title="Of the price without tax; the channel’s fee and the cost are taken off, carriage is not"
    >%.</span
  >
  {#if session.mayChange}
    <span class="ms-auto"
      ><Button small disabled={kept} onclick={() => void keep()}>{kept ? 'Kept' : 'Keep this rule'}</Button
      ></span
    >
  {/if}
</div>
