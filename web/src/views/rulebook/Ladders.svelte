<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import Overrides from '../routing/Overrides.svelte';
  import LadderCard from './LadderCard.svelte';
  import LadderEditor from './LadderEditor.svelte';
  import { blankRung } from './ladders';
  import type { Change, Ladder, Shown } from './model';

  interface Props {
    shown: Shown;
    shares: Map<string, number>;
    total: number;
    onchange: (changes: Change[], said: string, undo?: () => void) => Promise<void>;
  }
  let { shown, shares, total, onchange }: Props = $props();

  const terms = createQuery(() => ({
    queryKey: ['rulebook', 'terms'],
    staleTime: Infinity,
    queryFn: () => get(api.GET('/api/rulebook/terms'))
  }));
  const nodes = createQuery(() => ({
    queryKey: ['stock', 'nodes'],
    queryFn: () => get(api.GET('/api/stock/nodes'))
  }));
  /** the name of the one that is changed; empty: a new one */
  let editing = $state<string>();
  let problem = $state('');

  function edit(name: string) {
    problem = '';
    editing = name;
  }

  async function keep(ladder: Ladder) {
    problem = '';
    try {
      const was = shown.body.ladders.find((l) => l.name === editing) ?? null;
      await onchange([{ change: 'putLadder', ladder, was }], `Ladder “${ladder.name}” is kept in the draft`);
      editing = undefined;
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }

  async function remove(ladder: Ladder) {
    try {
      await onchange(
        [{ change: 'removeLadder', was: ladder }],
        `Ladder “${ladder.name}” taken out`,
        () => void onchange([{ change: 'putLadder', ladder, was: null }], '')
      );
    } catch (error) {
      toasts.fail(error);
    }
  }
</script>

<div class="flex min-w-0 flex-1 flex-wrap content-start items-start gap-4">
  {#each shown.body.ladders as ladder, i (ladder.name)}
    <div class="w-[30rem] space-y-2">
      {#if editing === ladder.name && terms.data && nodes.data}
        <LadderEditor
          {ladder}
          nodes={nodes.data}
          kinds={terms.data.nodeKinds}
          {problem}
          onkeep={(l) => void keep(l)}
          onleave={() => (editing = undefined)}
        />
      {:else}
        <LadderCard {ladder} {shares} {total} />
        <div class="flex items-center gap-2">
          <span class="text-soft"
            >{i ? 'for orders that a rule sends here' : 'for every order that no rule sends elsewhere'}</span
          >
          {#if session.mayChange}
            <span class="ms-auto flex gap-2">
              {#if i}<Button small onclick={() => void remove(ladder)}>Take it out</Button>{/if}
              <Button small onclick={() => edit(ladder.name)}>Change “{ladder.name}”</Button>
            </span>
          {/if}
        </div>
      {/if}
    </div>
  {/each}
  {#if session.mayChange}
    <div class="w-[30rem]">
      {#if editing === '' && terms.data && nodes.data}
        <LadderEditor
          ladder={{ name: '', rungs: [blankRung()] }}
          nodes={nodes.data}
          kinds={terms.data.nodeKinds}
          {problem}
          onkeep={(l) => void keep(l)}
          onleave={() => (editing = undefined)}
        />
      {:else}<Button small onclick={() => edit('')}>Another ladder…</Button>{/if}
    </div>
  {/if}
  <div class="w-full"><Overrides /></div>
</div>
