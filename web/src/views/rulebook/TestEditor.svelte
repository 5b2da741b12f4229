<script lang="ts">
  import { word } from '../../parts/format';
  import type { Field, FieldTerm, Operator, Test } from './model';
  import { FIELDS, operatorWords, unit } from './sentence';
  import { minor, typed } from '../../parts/money';
  import { session } from '../../state/session.svelte';

  interface Props {
    test: Test;
    fields: FieldTerm[];
    onchange: (test: Test) => void;
    onremove?: () => void;
  }
  let { test, fields, onchange, onremove }: Props = $props();

  const term = $derived(fields.find((f) => f.field === test.field));
  const cents = $derived(test.field === 'VALUE');

  function choose(field: Field) {
    const next = fields.find((f) => f.field === field);
    const operator = next?.operators.includes(test.operator) ? test.operator : (next?.operators[0] ?? 'IS');
    onchange({ ...test, field, operator, values: next?.options.length ? [next.options[0]!] : [] });
  }

  const shown = $derived(
    cents ? (test.values[0] ? typed(Number(test.values[0]), session.base) : '') : test.values.join(', ')
  );

  function read(text: string): string[] {
    if (term?.kind === 'NUMBER') {
      const number = cents ? minor(text, session.base) : Math.round(Number(text.trim()));
      return text.trim() && !Number.isNaN(number) ? [String(number)] : [];
    }
    return text
      .split(',')
      .map((v) => v.trim())
      .filter(Boolean);
  }
</script>

<span class="inline-flex flex-wrap items-center gap-1">
  <select
    class="field h-7 py-0 ps-2 pe-7"
    aria-label="What is asked"
    value={test.field}
    onchange={(event) => choose(event.currentTarget.value as Field)}
    >{#each fields as f (f.field)}<option value={f.field}>{FIELDS[f.field]}</option>{/each}</select
  >
  <select
    class="field h-7 py-0 ps-2 pe-7"
    aria-label="How it is compared"
    value="{test.operator} {test.negated}"
    onchange={(event) => {
      const [operator, negated] = event.currentTarget.value.split(' ');
      onchange({ ...test, operator: operator as Operator, negated: negated === 'true' });
    }}
  >
    {#each term?.operators ?? [] as operator (operator)}
      <option value="{operator} false">{operatorWords(operator, false, false)}</option>
      <option value="{operator} true">{operatorWords(operator, true, false)}</option>
    {/each}
  </select>
  {#if term?.options.length}
    <select
      class="field h-7 py-0 ps-2 pe-7"
      aria-label="With what"
      value={test.values[0] ?? ''}
      onchange={(event) => onchange({ ...test, values: [event.currentTarget.value] })}
      >{#each term.options as option (option)}<option value={option}>{word(option)}</option>{/each}</select
    >
  {:else}
    <input
      class={['field h-7', term?.kind === 'NUMBER' ? 'w-24 text-right' : 'w-48']}
      aria-label="With what"
      placeholder={term?.kind === 'NUMBER' ? '' : 'one, or another'}
      inputmode={term?.kind === 'NUMBER' ? 'decimal' : undefined}
      value={shown}
      onchange={(event) => onchange({ ...test, values: read(event.currentTarget.value) })}
      required
    />
    {#if unit(test.field)}<span class="text-soft">{unit(test.field)}</span>{/if}
  {/if}
  {#if onremove}
    <button type="button" class="px-1 text-soft hover:text-madder" aria-label="Without it" onclick={onremove}
      >✕</button
    >
  {/if}
</span>
