<script lang="ts">
  import { createInfiniteQuery, createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { param, setParams } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import FileColumns from './FileColumns.svelte';
  import FileRows from './FileRows.svelte';

  let { id, onclose }: { id: number; onclose: () => void } = $props();

  const STATES = [
    ['', 'all'],
    ['NEW', 'new'],
    ['CHANGED', 'changed'],
    ['SAME', 'known just so'],
    ['REFUSED', 'refused'],
    ['TAKEN', 'taken']
  ] as const;
  type State = 'NEW' | 'CHANGED' | 'SAME' | 'REFUSED' | 'TAKEN';
  const atWork = (card?: Schemas['FilesFileCard']) =>
    card?.file.state === 'CHECKING' || card?.file.state === 'TAKING';
  const client = useQueryClient();
  const params = $derived({ path: { id } });
  const shown = $derived(param('rows') as State | '');
  const file = createQuery(() => ({
    queryKey: ['file', id],
    queryFn: () => get(api.GET('/api/intake/files/{id}', { params })),
    refetchInterval: ({ state }) => (atWork(state.data) ? 700 : false)
  }));
  const rows = createInfiniteQuery(() => ({
    queryKey: ['file', id, 'rows', shown],
    queryFn: ({ pageParam }) =>
      get(
        api.GET('/api/intake/files/{id}/rows', {
          params: { path: { id }, query: { state: shown || undefined, after: pageParam } }
        })
      ),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => (last.next ? Number(last.next) : undefined)
  }));
  const card = $derived(file.data);
  const counts = $derived(card?.counts ?? {});
  const toTake = $derived((counts.NEW ?? 0) + (counts.CHANGED ?? 0));
  const working = $derived(atWork(card));
  const resting = $derived(!working && card?.file.state !== 'UNDONE' && card?.file.state !== 'DISCARDED');
  // what is done of the work at hand, in rows
  const done = $derived(
    card ? card.file.rows - (card.file.state === 'CHECKING' ? (counts.UNCHECKED ?? 0) : toTake) : 0
  );
  // when the work is over, its rows are read anew
  $effect(() => {
    if (!working) void client.invalidateQueries({ queryKey: ['file', id, 'rows'] });
  });
  let naming = $state(false);
  let busy = $state(false);

  async function run<T>(what: Promise<T>, done: (result: T) => string) {
    busy = true;
    try {
      toasts.say(done(await what));
    } catch (error) {
      toasts.fail(error);
    } finally {
      await client.invalidateQueries();
      busy = false;
    }
  }
</script>

{#if card}
  <div class="mb-2 flex flex-wrap items-center gap-3">
    <button class="text-verdigris hover:underline" onclick={onclose}>← Files</button>
    <h3 class="font-[650]">{card.file.name}</h3>
    <span class="text-soft">{plural(card.file.rows, 'row')}</span>
    {#if session.mayChange}
      <span class="ms-auto flex gap-1.5">
        {#if resting}
          {#if card.file.mapping && !card.asks.length}
            <Button
              small
              main
              disabled={busy || !toTake}
              onclick={() =>
                void run(get(api.POST('/api/intake/files/{id}/take', { params })), (r) =>
                  atWork(r)
                    ? 'They are taken in; you need not wait'
                    : `${plural(r.orders, 'order')} of it taken in`
                )}>Take {plural(toTake, 'good row')} in</Button
            >
            <Button small onclick={() => (naming = true)}>Columns…</Button>
          {/if}
          {#if card.file.state === 'TAKEN'}
            <Button
              small
              disabled={busy}
              onclick={() =>
                void run(get(api.POST('/api/intake/files/{id}/undo', { params })), () => 'Taken back')}
              >Take it back</Button
            >
          {:else}
            <Button
              small
              disabled={busy}
              onclick={() =>
                void run(get(api.POST('/api/intake/files/{id}/discard', { params })), () => 'Discarded')}
              >Discard</Button
            >
          {/if}
        {/if}
      </span>
    {/if}
  </div>
  {#if working}
    <div class="mb-2 flex items-center gap-3">
      <progress
        class="h-2 w-64 accent-verdigris"
        max={card.file.rows}
        value={done}
        aria-label="Rows worked on"
      ></progress>
      <span class="text-soft"
        >{card.file.state === 'CHECKING' ? 'Checking' : 'Taking in'}: {count(done)} of {plural(
          card.file.rows,
          'row'
        )}. It goes on if you leave.</span
      >
    </div>
  {/if}
  {#if !card.file.mapping || card.asks.length || naming}
    <FileColumns {card} onmapped={() => (naming = false)} />
  {:else}
    {#if card.sums.orders && resting}
      <p class="mb-2">
        {plural(card.sums.orders, 'order')} with {plural(card.sums.units, 'unit')}, {money(
          card.sums.value,
          card.currency,
          ''
        )} with shipping and discounts
      </p>
    {/if}
    <div class="mb-2 flex gap-3" role="group" aria-label="Which rows">
      {#each STATES as [key, name] (key)}
        {@const n = key ? (counts[key] ?? 0) : card.file.rows}
        {#if n || !key}
          <button
            class={[
              key === 'REFUSED' ? 'text-madder' : shown === key ? '' : 'text-soft hover:text-ink',
              shown === key && 'border-b-2 border-verdigris font-[650]'
            ]}
            aria-pressed={shown === key}
            onclick={() => setParams({ rows: key })}>{name} {count(n)}</button
          >
        {/if}
      {/each}
    </div>
    <FileRows
      fileId={id}
      headers={card.file.headers}
      rows={rows.data?.pages.flatMap((p) => p.rows) ?? []}
      mayCorrect={session.mayChange && resting}
    />
    {#if rows.hasNextPage}
      <div class="pt-2"><Button small onclick={() => void rows.fetchNextPage()}>More</Button></div>
    {/if}
  {/if}
{:else if file.isError}
  <p class="text-madder">{file.error.message}</p>
{/if}
