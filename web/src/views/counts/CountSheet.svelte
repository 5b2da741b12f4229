<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import CountLine from './CountLine.svelte';
  import FoundForm from './FoundForm.svelte';

  let { params }: { params: { id: string } } = $props();

  type Sheet = Schemas['CountSheetsSheet'];
  const id = $derived(Number(params.id));
  const path = $derived({ params: { path: { id } } });
  const client = useQueryClient();
  const query = createQuery(() => ({
    queryKey: ['stock', 'counts', id],
    queryFn: () => get(api.GET('/api/counts/{id}', path))
  }));
  const sheet = $derived(query.data);
  const head = $derived(sheet?.count);
  const waiting = $derived(sheet?.lines.filter((l) => l.state === 'WAITING') ?? []);
  const counted = $derived(sheet?.lines.filter((l) => l.state === 'COUNTED').length ?? 0);
  const left = $derived(sheet?.lines.filter((l) => l.state === 'OPEN').length ?? 0);
  const worth = $derived(waiting.reduce((sum, l) => sum + Math.abs(l.value ?? 0), 0));
  let problem = $state('');
  let list = $state<HTMLTableSectionElement>();

  async function run(what: Promise<Sheet>, said?: string): Promise<boolean> {
    problem = '';
    try {
      client.setQueryData(['stock', 'counts', id], await what);
      if (said) toasts.say(said);
      return true;
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
      return false;
    }
  }
  const found = (body: Schemas['CountsFound']) =>
    run(get(api.POST('/api/counts/{id}/found', { ...path, body })));
  const finish = () => run(get(api.POST('/api/counts/{id}/finish', path)), 'Differences are let in');
  const settle = (let_: boolean, lines: number[]) =>
    run(
      get(api.POST('/api/counts/{id}/verdicts', { ...path, body: { lines, let: let_ } })),
      `${plural(lines.length, 'difference')} ${let_ ? 'let in' : 'refused'}`
    );
  const close = () => run(get(api.POST('/api/counts/{id}/close', path)), 'The count is closed');
  /** The next field that wants a number, as one walks. */
  function next(from: HTMLElement) {
    const fields = [...(list?.querySelectorAll<HTMLInputElement>('input[data-units]') ?? [])];
    fields[fields.indexOf(from as HTMLInputElement) + 1]?.focus();
  }
</script>

<section class="flex min-h-0 flex-1 flex-col" aria-label="Count">
  {#if sheet && head}
    <header class="flex items-baseline gap-3 px-4 pt-3 pb-2">
      <h1>{head.name}</h1>
      <span class="text-soft"
        >{head.node} · {count(head.counted)} of {plural(head.lines, 'place')}{head.blind
          ? ' · blind'
          : ''}{head.closedAt ? ` · closed by ${head.closedBy}` : ''}</span
      >
      <span class="ms-auto flex items-baseline gap-3">
        {#if session.me?.role !== 'PACKER'}<a
            class="text-verdigris hover:underline"
            href="#/stock/ledger?count={id}">what it moved</a
          >{/if}
        <a class="text-verdigris hover:underline" href="#/stock/counts">all counts</a>
      </span>
    </header>
    {#if !head.closedAt}
      <div class="flex flex-wrap items-center gap-2 px-4 pb-2">
        {#if session.packs}<Button main disabled={!counted} onclick={finish}
            >Let in what was counted{counted ? `: ${plural(counted, 'place')}` : ''}</Button
          >{/if}
        {#if session.mayChange}
          {#if waiting.length}
            <Button
              onclick={() =>
                settle(
                  true,
                  waiting.map((l) => l.id)
                )}>Let in {plural(waiting.length, 'difference')}, {money(worth, head.currency)}</Button
            >
            <Button
              onclick={() =>
                settle(
                  false,
                  waiting.map((l) => l.id)
                )}>Refuse {waiting.length === 1 ? 'it' : 'them'}</Button
            >
          {/if}
          <Button onclick={close}>Close{left ? `, ${plural(left, 'place')} uncounted` : ''}</Button>
        {/if}
      </div>
    {/if}
    <p class={['px-4 text-madder', problem && 'pb-2']} role="alert">{problem}</p>
    <div class="min-h-0 flex-1 overflow-y-auto border-t border-line">
      <table class="w-full">
        <thead class="sticky top-0 z-10 bg-paper shadow-[inset_0_-1px_var(--line)]"
          ><tr class="h-7"
            ><th class="w-24 px-4">Bin</th><th class="px-2">Item</th><th class="w-40 px-2">Lot or number</th
            ><th class="w-24 px-2 text-right">On record</th><th class="w-28 px-2 text-right">Found</th><th
              class="w-64 px-2">Difference</th
            ><th class="px-2"></th></tr
          ></thead
        >
        <tbody bind:this={list}>
          {#each sheet.lines as line (line.id)}
            <CountLine {line} currency={head.currency} open={!head.closedAt} {found} {settle} {next} />
          {/each}
        </tbody>
      </table>
      {#if !head.closedAt && session.packs}<FoundForm {found} />{/if}
    </div>
  {:else}
    <p class="p-4 text-soft">{query.isError ? query.error.message : 'Reading…'}</p>
  {/if}
</section>
