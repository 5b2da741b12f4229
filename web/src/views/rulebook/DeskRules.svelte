<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import { mine } from '../../state/keys';
  import { param, setParams } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import { blankRule, freshId, groupsOf, moved, placed, type Change, type Rule, type Shown } from './model';
  import RuleEditor from './RuleEditor.svelte';
  import RuleRow from './RuleRow.svelte';

  interface Props {
    shown: Shown;
    /** throws what the server says if it can't be done */
    onchange: (changes: Change[], said: string, undo?: () => void) => Promise<void>;
  }
  let { shown, onchange }: Props = $props();

  const FIRST_GROUP = 'Every order';
  const groups = $derived(groupsOf(shown));
  const all = $derived(placed(groups));
  const search = $derived(param('search').toLowerCase());
  const rows = $derived(
    search ? all.filter((p) => JSON.stringify(p.rule).toLowerCase().includes(search)) : all
  );
  const current = $derived(rows.find((p) => p.rule.id === param('rule')));
  const editing = $derived(param('edit'));
  let written = $state<Rule>();
  let problem = $state('');

  const terms = createQuery(() => ({
    queryKey: ['rulebook', 'terms'],
    staleTime: Infinity,
    queryFn: () => get(api.GET('/api/rulebook/terms'))
  }));
  const nodes = createQuery(() => ({
    queryKey: ['stock', 'nodes'],
    queryFn: () => get(api.GET('/api/stock/nodes'))
  }));
  const asked = $derived(JSON.stringify(all.map((p) => p.rule)));
  const met = createQuery(() => ({
    queryKey: ['rulebook', 'trials', asked],
    enabled: all.length > 0,
    staleTime: 60_000,
    queryFn: () => get(api.POST('/api/rulebook/trials', { body: JSON.parse(asked) }))
  }));
  const counts = $derived<Record<string, number>>(met.data?.met ?? {});
  const findings = $derived<Schemas['RuleReviewFinding'][]>(shown.findings);

  const select = (id: string) => setParams({ rule: id, edit: '' });
  const edit = (id: string) => {
    problem = '';
    setParams({ rule: id, edit: id });
  };

  function write() {
    problem = '';
    written = blankRule('');
    setParams({ rule: '', edit: 'new' });
  }

  async function keep(rule: Rule) {
    const was = all.find((p) => p.rule.id === editing)?.rule ?? null;
    const id =
      was?.id ??
      freshId(
        rule.name,
        all.map((p) => p.rule.id)
      );
    const now = { ...rule, id };
    problem = '';
    try {
      await onchange(
        [{ change: 'putRule', rule: now, was, group: groups[0]?.name ?? FIRST_GROUP, before: null }],
        `Rule “${now.name}” is kept in the draft`
      );
      setParams({ rule: id, edit: '' });
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }

  /** What is done in one stroke says itself if it can't be done. */
  async function stroke(changes: Change[], said: string, undo?: Change[]) {
    try {
      await onchange(changes, said, undo && (() => void stroke(undo, '')));
    } catch (error) {
      toasts.fail(error);
    }
  }

  function move(id: string, by: 1 | -1) {
    const change = moved(groups, id, by);
    if (change) void stroke([change], '');
  }

  function drop(dragged: string, onto: string) {
    const target = all.find((p) => p.rule.id === onto);
    if (target && dragged !== onto && all.some((p) => p.rule.id === dragged))
      void stroke([{ change: 'moveRule', rule: dragged, group: target.group, before: onto }], '');
  }

  async function duplicate() {
    if (!current) return;
    const ids = all.map((p) => p.rule.id);
    const rule = { ...current.rule, id: freshId(current.rule.id, ids), name: `${current.rule.name} again` };
    const after = all[all.indexOf(current) + 1];
    await stroke(
      [
        {
          change: 'putRule',
          rule,
          was: null,
          group: current.group,
          before: after?.group === current.group ? after.rule.id : null
        }
      ],
      `“${current.rule.name}” written again`,
      [{ change: 'removeRule', was: rule }]
    );
    select(rule.id);
  }

  function remove() {
    if (!current) return;
    const { rule, group } = current;
    const after = all[all.indexOf(current) + 1];
    const before = after?.group === group ? after.rule.id : null;
    void stroke([{ change: 'removeRule', was: rule }], `“${rule.name}” taken out`, [
      { change: 'putRule', rule, was: null, group, before }
    ]);
  }

  function toggle() {
    if (!current) return;
    const { rule, group } = current;
    const other = { ...rule, on: !rule.on };
    void stroke(
      [{ change: 'putRule', rule: other, was: rule, group, before: null }],
      `“${rule.name}” is ${other.on ? 'on' : 'off'}`,
      [{ change: 'putRule', rule, was: other, group, before: null }]
    );
  }

  function keys(event: KeyboardEvent) {
    if (!mine(event) || editing || event.ctrlKey || event.metaKey) return;
    const at = current ? rows.indexOf(current) : -1;
    const step = (by: number) => {
      const next = rows[Math.min(rows.length - 1, Math.max(0, at + by))];
      if (next) select(next.rule.id);
    };
    if (event.altKey && current && session.mayChange && /^Arrow(Up|Down)$/.test(event.key)) {
      event.preventDefault();
      move(current.rule.id, event.key === 'ArrowUp' ? -1 : 1);
      return;
    }
    if (event.altKey) return;
    if (event.key === 'j' || event.key === 'ArrowDown') step(1);
    else if (event.key === 'k' || event.key === 'ArrowUp') step(-1);
    else if (!session.mayChange) return;
    else if (event.key === 'n') write();
    else if ((event.key === 'e' || event.key === 'Enter') && current) edit(current.rule.id);
    else if (event.key === 'd') void duplicate();
    else if (event.key === 'o') toggle();
    else if (event.key === 'Delete') remove();
    else return;
    event.preventDefault();
  }
</script>

<svelte:window onkeydown={keys} />

{#snippet editor(rule: Rule)}
  {#if terms.data && nodes.data}
    <RuleEditor
      {rule}
      terms={terms.data}
      ladders={shown.body.ladders.map((l) => l.name)}
      nodes={nodes.data}
      {problem}
      onkeep={(r) => void keep(r)}
      onleave={() => setParams({ edit: '' })}
    />
  {/if}
{/snippet}

<div class="card overflow-hidden">
  <div class="flex px-3 py-2 text-soft">
    <span>Top to bottom; a later rule may overrule an earlier one</span>
    <span class="ms-auto"
      >met, last 30 days{met.isFetching && !met.data ? ' …' : ''}{met.isError ? ': not known' : ''}</span
    >
  </div>
  {#each groups as group (group.name)}
    {#if groups.length > 1}<h2 class="border-t border-line bg-sunk px-3 py-1 text-sm">{group.name}</h2>{/if}
    <ol>
      {#each rows.filter((p) => p.group === group.name) as p (p.rule.id)}
        {#if editing === p.rule.id}
          <li>{@render editor(p.rule)}</li>
        {:else}
          <RuleRow
            placed={p}
            {all}
            current={current === p}
            met={counts[p.rule.id]}
            finding={findings.find((f) => f.rule === p.rule.id)}
            onselect={() => select(p.rule.id)}
            onedit={session.mayChange ? () => edit(p.rule.id) : undefined}
            ondrop={(dragged) => drop(dragged, p.rule.id)}
          />
        {/if}
      {/each}
    </ol>
  {/each}
  {#if editing === 'new' && session.mayChange}
    {@render editor(written ?? blankRule(''))}
  {:else if session.mayChange}
    <button
      type="button"
      class="block w-full border-t border-line px-3 py-2 ps-[3.25rem] text-left text-soft hover:bg-sunk"
      onclick={write}
      >+ a rule <kbd class="rounded-sm border border-line px-1 font-mono text-xs">n</kbd></button
    >
  {/if}
  {#if !rows.length}
    <p class="border-t border-line px-3 py-2 text-soft">
      {search
        ? 'No rule says that.'
        : 'No rule yet: orders go by the first ladder alone. Write one to tag, hold, hurry or route some of them otherwise.'}
    </p>
  {/if}
</div>
