<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, word } from '../../parts/format';
  import ActionEditor from './ActionEditor.svelte';
  import ConditionEditor from './ConditionEditor.svelte';
  import type { Parts, Rule, RuleEvent, Stage } from './model';
  import { EVENTS } from './sentence';

  interface Props {
    rule: Rule;
    terms: Schemas['RulebookTerms'];
    ladders: string[];
    nodes: Schemas['StockGridNodeHead'][];
    /** what the server said of the last attempt to keep it */
    problem: string;
    onkeep: (rule: Rule) => void;
    onleave: () => void;
  }
  let { rule, terms, ladders, nodes, problem, onkeep, onleave }: Props = $props();

  let draft = $state<Rule>(untrack(() => $state.snapshot(rule)));
  const LIST = 'field h-7 py-0 ps-2 pe-7';

  const asked = $derived<Parts>(
    'parts' in draft.condition ? draft.condition : { is: 'all', parts: [draft.condition] }
  );

  function happens(event: RuleEvent) {
    draft = { ...draft, event, stay: event === 'STAYS' ? { stage: 'RELEASED', hours: 2 } : null };
  }

  const complete = $derived(
    /"(values":\[\]|text":"")/.test(JSON.stringify(draft.condition)) ||
      draft.actions.some((a) => Object.values(a).includes(''))
      ? ''
      : JSON.stringify({ ...draft, name: draft.name || 'a new rule' })
  );
  const met = createQuery(() => ({
    queryKey: ['rulebook', 'trial', complete],
    enabled: complete !== '',
    staleTime: 60_000,
    queryFn: () => get(api.POST('/api/rulebook/trial', { body: JSON.parse(complete) }))
  }));

  /** A field tells of its change when it is left: keeping by key leaves it first. */
  function keys(event: KeyboardEvent & { currentTarget: HTMLFormElement }) {
    if (event.key === 'Escape') {
      event.preventDefault();
      onleave();
    } else if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
      event.currentTarget.requestSubmit();
    }
    event.stopPropagation();
  }
  const begin = (form: HTMLFormElement) => form.querySelector<HTMLElement>('select, input')?.focus();
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions (its fields take the keys) -->
<form
  class="space-y-2.5 border-t border-line bg-sunk px-4 py-3 shadow-[inset_3px_0_var(--verdigris)]"
  aria-label="The rule"
  onsubmit={(event) => {
    event.preventDefault();
    onkeep($state.snapshot(draft));
  }}
  onkeydown={keys}
  {@attach begin}
>
  <div class="flex flex-wrap items-center gap-1.5">
    <span>When an order is</span>
    <select
      class={LIST}
      aria-label="When"
      value={draft.event}
      onchange={(event) => happens(event.currentTarget.value as RuleEvent)}
      >{#each terms.events as event (event)}<option value={event}>{EVENTS[event]}</option>{/each}</select
    >
    {#if draft.stay}
      <span>at</span>
      <select
        class={LIST}
        aria-label="Stage"
        value={draft.stay.stage}
        onchange={(event) =>
          (draft = { ...draft, stay: { ...draft.stay!, stage: event.currentTarget.value as Stage } })}
        >{#each terms.stages as stage (stage)}<option value={stage}>{word(stage)}</option>{/each}</select
      >
      <span>for</span>
      <input
        class="field h-7 w-16 text-right"
        type="number"
        min="1"
        aria-label="Hours"
        value={draft.stay.hours}
        onchange={(event) =>
          (draft = { ...draft, stay: { ...draft.stay!, hours: event.currentTarget.valueAsNumber || 1 } })}
      />
      <span>hours</span>
    {/if}
    <span>and</span>
  </div>
  <ConditionEditor
    condition={asked}
    fields={terms.fields}
    names={terms.names}
    onchange={(condition) => (draft = { ...draft, condition })}
  />
  <div class="space-y-1.5">
    {#each draft.actions as action, i (i)}
      <div class="flex items-center gap-1.5">
        <span class="w-9 text-right text-soft">{i ? 'and' : 'then'}</span>
        <ActionEditor
          {action}
          {ladders}
          {nodes}
          levels={terms.levels}
          onchange={(a) => (draft = { ...draft, actions: draft.actions.map((b, k) => (k === i ? a : b)) })}
          onremove={draft.actions.length > 1
            ? () => (draft = { ...draft, actions: draft.actions.filter((_, k) => k !== i) })
            : undefined}
        />
      </div>
    {/each}
    <div class="flex items-center gap-3 ps-11 text-xs">
      <button
        type="button"
        class="rounded-sm px-1 text-verdigris underline decoration-dotted hover:decoration-solid"
        onclick={() => (draft = { ...draft, actions: [...draft.actions, { do: 'addTag', tag: '' }] })}
        >and do…</button
      >
      <label class="flex items-center gap-1.5"
        ><input type="checkbox" bind:checked={draft.endsGroup} /> and stop here</label
      >
      <label class="flex items-center gap-1.5"><input type="checkbox" bind:checked={draft.on} /> on</label>
    </div>
  </div>
  <div class="flex flex-wrap items-center gap-2 border-t border-line pt-2.5">
    <label class="flex items-center gap-1.5 text-soft"
      >Its name<input
        class="field h-7 w-56 text-ink"
        maxlength="80"
        required
        placeholder="as timelines call it"
        bind:value={draft.name}
      /></label
    >
    <Button main small type="submit" key="Ctrl ↵">Keep</Button>
    <Button small key="Esc" onclick={onleave}>Leave it</Button>
    <span class="ms-auto text-soft" aria-live="polite">
      {#if complete === ''}something is not said yet
      {:else if met.isError}{met.error.message}
      {:else if met.data}would have met <b class="text-ink">{count(met.data.met)}</b> of {count(
          met.data.tried
        )}
        orders of 30 days{draft.event === 'STAYS' ? ', had they all stood' : ''}
      {/if}
    </span>
  </div>
  {#if problem}<p class="text-madder" role="alert">{problem}</p>{/if}
</form>
