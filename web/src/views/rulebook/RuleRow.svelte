<script lang="ts">
  import { count } from '../../parts/format';
  import type { Finding, Placed } from './model';
  import Sentence from './Sentence.svelte';
  import { findingWords } from './sentence';

  interface Props {
    placed: Placed;
    all: Placed[];
    current: boolean;
    /** of the last 30 days; undefined while it is counted, or if it can't be */
    met?: number;
    finding?: Finding;
    onselect: () => void;
    onedit?: () => void;
    ondrop?: (id: string) => void;
  }
  let { placed, all, current, met, finding, onselect, onedit, ondrop }: Props = $props();
</script>

<li
  class={[
    'grid cursor-default grid-cols-[2rem_1fr_5rem] gap-2 border-t border-line px-3 py-2 leading-relaxed',
    current ? 'bg-verdigris-wash shadow-[inset_3px_0_var(--verdigris)]' : 'hover:bg-sunk'
  ]}
  aria-current={current}
  draggable={onedit !== undefined}
  ondragstart={(event) => event.dataTransfer?.setData('text/plain', placed.rule.id)}
  ondragover={(event) => event.preventDefault()}
  ondrop={(event) => {
    event.preventDefault();
    ondrop?.(event.dataTransfer?.getData('text/plain') ?? '');
  }}
>
  <span class="text-right text-soft tabular-nums">{placed.number}</span>
  <button
    type="button"
    class={['min-w-0 text-left', !placed.rule.on && 'text-soft']}
    onclick={onselect}
    ondblclick={onedit}
    title={placed.rule.name}
  >
    {#if !placed.rule.on}<span class="me-1 rounded-sm border border-line px-1 text-xs">off</span
      >{/if}<Sentence rule={placed.rule} />
    {#if finding}<span class="block text-xs text-madder">{findingWords(finding, all)}</span>{/if}
  </button>
  <span class={['text-right tabular-nums', met === 0 && 'text-madder']}
    >{placed.rule.event === 'STAYS' ? '–' : met === undefined ? '' : count(met)}</span
  >
</li>
