<script lang="ts">
  import type { Rule } from './model';
  import { sentence } from './sentence';

  let { rule }: { rule: Rule } = $props();
</script>

{#each sentence(rule) as piece, i (i)}<span
    class={piece.kind === 'term'
      ? 'border-b-[1.5px] border-verdigris font-[600]'
      : piece.kind === 'value'
        ? 'border-b-[1.5px] border-dotted border-verdigris font-[600]'
        : undefined}>{piece.text}</span
  >{/each}
