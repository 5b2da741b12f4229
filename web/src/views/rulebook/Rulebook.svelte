<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import FileButton from '../../parts/FileButton.svelte';
  import { moment, plural } from '../../parts/format';
  import Search from '../../parts/Search.svelte';
  import { param, setParams } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import DeskRules from './DeskRules.svelte';
  import DifferenceList from './DifferenceList.svelte';
  import EditionList from './EditionList.svelte';
  import LadderCard from './LadderCard.svelte';
  import Ladders from './Ladders.svelte';
  import MakeLiveDialog from './MakeLiveDialog.svelte';
  import MetCard from './MetCard.svelte';
  import Rehearsals from './Rehearsals.svelte';
  import { groupsOf, placed, type Change, type Shown } from './model';

  const client = useQueryClient();
  const book = createQuery(() => ({
    queryKey: ['rulebook'],
    queryFn: () => get(api.GET('/api/rulebook'))
  }));
  const rungs = createQuery(() => ({
    queryKey: ['rulebook', 'shares'],
    queryFn: () => get(api.GET('/api/rulebook/shares'))
  }));
  const shares = $derived(new Map((rungs.data ?? []).map((s) => [s.rung, s.orders])));
  const total = $derived([...shares.values()].reduce((a, b) => a + b, 0));
  const tab = $derived(param('tab') || 'rules');
  const shown = $derived(book.data);
  const draft = $derived(shown?.draft ?? undefined);
  const all = $derived(shown ? placed(groupsOf(shown)) : []);
  const current = $derived(all.find((p) => p.rule.id === param('rule')));
  const differing = $derived(
    draft
      ? draft.differs.rules.length + draft.differs.ladders.length + (draft.differs.policyAfter ? 1 : 0)
      : 0
  );
  let making = $state(false);

  async function change(changes: Change[], said: string, undo?: () => void) {
    try {
      const now = await get(api.POST('/api/rulebook/draft/changes', { body: changes as never }));
      client.setQueryData(['rulebook'], now);
      if (said) toasts.say(said, undo);
    } catch (error) {
      // what others did to it meanwhile is shown, whatever it was
      await client.invalidateQueries({ queryKey: ['rulebook'], exact: true });
      throw error;
    }
  }

  /** A whole draft at once, by a file or by going back. */
  async function become(what: Promise<Shown>, said: string) {
    try {
      client.setQueryData(['rulebook'], await what);
      setParams({ tab: 'rules', rule: '', edit: '', edition: '' });
      toasts.say(said);
    } catch (error) {
      toasts.fail(error);
    }
  }

  const back = (number: number) =>
    become(
      get(api.POST('/api/rulebook/editions/{number}/draft', { params: { path: { number } } })),
      `The draft says what edition ${number} said; make it live to go back`
    );
  const discard = () => become(get(api.DELETE('/api/rulebook/draft')), 'The draft is thrown away');
  const read = async (file: File) => {
    let content: never;
    try {
      content = JSON.parse(await file.text()) as never;
    } catch (error) {
      toasts.fail(new Error(`${file.name} is no JSON: ${error instanceof Error ? error.message : ''}`));
      return;
    }
    await become(
      get(api.PUT('/api/rulebook/draft', { body: content })),
      `The draft is what ${file.name} says`
    );
  };

  const tabs = $derived([
    { id: 'rules', name: `Desk rules ${all.length || ''}` },
    { id: 'ladders', name: `Ladders ${shown?.body.ladders.length ?? ''}` },
    { id: 'differences', name: `Differences ${differing || ''}`, hidden: !draft },
    { id: 'rehearsal', name: 'Rehearsal' },
    { id: 'editions', name: `Editions ${shown?.live.number ?? ''}` }
  ]);
</script>

<section class="flex min-h-0 min-w-0 flex-1 flex-col" aria-label="Rulebook">
  <header class="flex flex-wrap items-baseline gap-3 px-4 pt-3 pb-1">
    {#if shown}
      <h1>Edition {draft ? `${draft.number}, draft` : `${shown.live.number}, live`}</h1>
      <span class="text-soft">
        {#if draft}{plural(differing, 'thing differs', 'things differ')} from edition {shown.live.number},
          live since
          {moment(shown.live.at)}; {draft.by} changed it {moment(draft.at)}
        {:else}since {moment(shown.live.at)}, made live by {shown.live.by}: {shown.live.note}{/if}
      </span>
      {#if session.mayChange}
        <span class="ms-auto flex gap-2">
          <FileButton
            quiet
            text="Read a file…"
            label="A rulebook’s file"
            accept=".json"
            onfile={(f) => void read(f)}
          />
          {#if draft}
            <Button small onclick={() => void discard()}>Throw the draft away</Button>
            <Button main small onclick={() => (making = true)}>Make it live…</Button>
          {/if}
        </span>
      {/if}
    {:else}<h1>Rulebook</h1>{/if}
  </header>
  <div class="flex items-end border-b border-line px-4">
    <div class="flex gap-4" role="tablist" aria-label="The rulebook’s parts">
      {#each tabs.filter((t) => !t.hidden) as t (t.id)}
        <button
          type="button"
          role="tab"
          aria-selected={tab === t.id}
          class={[
            'border-b-2 py-1.5',
            tab === t.id ? 'border-verdigris font-[600]' : 'border-transparent text-soft hover:text-ink'
          ]}
          onclick={() => setParams({ tab: t.id === 'rules' ? '' : t.id, edit: '' })}>{t.name}</button
        >
      {/each}
    </div>
    {#if tab === 'rules'}<span class="ms-auto pb-1"
        ><Search label="Find rules" placeholder="What a rule says" /></span
      >{/if}
  </div>
  <div class="flex min-h-0 flex-1 gap-4 overflow-y-auto px-4 py-3">
    {#if shown && tab === 'rules'}
      <div class="min-w-0 flex-1"><DeskRules {shown} onchange={change} /></div>
      <div class="flex w-[22rem] shrink-0 flex-col gap-3.5 self-start max-[1100px]:w-72">
        {#if shown.body.ladders[0]}<LadderCard ladder={shown.body.ladders[0]} {shares} {total} />{/if}
        {#if current && !param('edit')}<MetCard placed={current} />{/if}
      </div>
    {:else if shown && tab === 'ladders'}
      <Ladders {shown} {shares} {total} onchange={change} />
    {:else if draft && tab === 'differences'}
      <div class="card min-w-0 flex-1 self-start px-4 py-3">
        <DifferenceList differs={draft.differs} />
        <p class="mt-3">
          <a class="text-verdigris underline" href="/api/rulebook/draft/file" download>The draft as a file</a>
        </p>
      </div>
    {:else if shown && tab === 'rehearsal'}
      <Rehearsals draft={!!draft} />
    {:else if shown && tab === 'editions'}
      <EditionList onback={(n) => void back(n)} />
    {:else}
      <p class="text-soft">{book.isError ? book.error.message : 'Reading…'}</p>
    {/if}
  </div>
</section>
{#if making && draft}<MakeLiveDialog bind:open={making} {draft} />{/if}
