<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { count, plural } from '../../parts/format';
  import { summed, type Family } from './families';
  import LevelCell from './LevelCell.svelte';

  interface Props {
    family: Family;
    nodes: Schemas['StockGridNodeHead'][];
    open: boolean;
    height: number;
    most: number;
    bar: number;
    ontoggle: () => void;
  }
  let { family, nodes, open, height, most, bar, ontoggle }: Props = $props();

  const waiting = $derived(family.variants.reduce((sum, v) => sum + v.waiting, 0));
  const available = $derived(family.variants.reduce((sum, v) => sum + v.available, 0));
</script>

<tr
  class="cursor-default border-b border-line bg-sunk/50 hover:bg-sunk"
  style:height="{height}px"
  onclick={ontoggle}
>
  <td class="truncate px-4 font-mono text-xs"
    ><button
      class="hover:underline"
      aria-expanded={open}
      onclick={(event) => {
        event.stopPropagation();
        ontoggle();
      }}><span aria-hidden="true" class="inline-block w-3">{open ? '▾' : '▸'}</span>{family.family}</button
    ></td
  >
  <td class="truncate px-2" title={family.name}
    >{family.name} <span class="text-soft">{plural(family.variants.length, 'variant')}</span></td
  >
  <td class="px-2 text-right whitespace-nowrap"
    >{#if waiting}<span class="font-[650] text-madder" title="units that orders wait for"
        >▼ {count(waiting)} wait</span
      >{/if}
    {count(available)}</td
  >
  {#each nodes as n (n.id)}
    <td class="px-2"><LevelCell cell={summed(family.variants, n.id)} {most} width={bar} /></td>
  {/each}
</tr>
