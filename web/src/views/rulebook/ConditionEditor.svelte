<script lang="ts">
  import ConditionEditor from './ConditionEditor.svelte';
  import ExpressionEditor from './ExpressionEditor.svelte';
  import { blankTest, type Condition, type FieldTerm, type Name, type Parts } from './model';
  import TestEditor from './TestEditor.svelte';

  interface Props {
    condition: Parts;
    fields: FieldTerm[];
    names: Name[];
    onchange: (condition: Parts) => void;
    onremove?: () => void;
  }
  let { condition, fields, names, onchange, onremove }: Props = $props();

  const put = (at: number, part: Condition) =>
    onchange({ ...condition, parts: condition.parts.map((p, i) => (i === at ? part : p)) });
  const drop = (at: number) => onchange({ ...condition, parts: condition.parts.filter((_, i) => i !== at) });
  const add = (part: Condition) => onchange({ ...condition, parts: [...condition.parts, part] });
  const LINK = 'rounded-sm px-1 text-verdigris underline decoration-dotted hover:decoration-solid';
</script>

<div class={['space-y-1.5', onremove && 'border-s-2 border-line ps-2']}>
  <div class="flex items-center gap-1.5">
    <select
      class="field h-7 py-0 ps-2 pe-7"
      aria-label="How many of these must hold"
      value={condition.is}
      onchange={(event) => onchange({ ...condition, is: event.currentTarget.value as Parts['is'] })}
    >
      <option value="all">all of these hold</option>
      <option value="any">any of these holds</option>
      <option value="none">none of these holds</option>
    </select>
    {#if onremove}<button
        type="button"
        class="px-1 text-soft hover:text-madder"
        aria-label="Without these"
        onclick={onremove}>✕</button
      >{/if}
  </div>
  {#each condition.parts as part, i (i)}
    <div class="ps-4">
      {#if part.is === 'test'}
        <TestEditor test={part} {fields} onchange={(t) => put(i, t)} onremove={() => drop(i)} />
      {:else if part.is === 'expression'}
        <ExpressionEditor
          text={part.text}
          {names}
          onchange={(text) => put(i, { is: 'expression', text })}
          onremove={() => drop(i)}
        />
      {:else}
        <ConditionEditor
          condition={part}
          {fields}
          {names}
          onchange={(c) => put(i, c)}
          onremove={() => drop(i)}
        />
      {/if}
    </div>
  {/each}
  <div class="flex gap-2 ps-4 text-xs">
    <button type="button" class={LINK} onclick={() => add(blankTest())}>and ask…</button>
    <button type="button" class={LINK} onclick={() => add({ is: 'any', parts: [blankTest()] })}
      >and any of several…</button
    >
    <button type="button" class={LINK} onclick={() => add({ is: 'expression', text: '' })}
      >and an expression…</button
    >
  </div>
</div>
