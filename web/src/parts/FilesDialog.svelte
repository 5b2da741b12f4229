<!-- Things as files: all there is out, and a file in, seen row by row before it is taken. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { upload, type Schemas } from '../api/client';
  import { session } from '../state/session.svelte';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';
  import FileButton from './FileButton.svelte';
  import { count, plural } from './format';

  interface Props {
    open: boolean;
    title: string;
    /** What there are files of: as in the address, and as people say it. */
    kinds: [string, string][];
  }
  let { open = $bindable(), title, kinds }: Props = $props();

  type Seen = Schemas['StockFilesSeen'];
  type Fate = Seen['rows'][number]['fate'];
  const FATES: Record<Fate, string> = {
    NEW: '+ new',
    CHANGED: '≠ changed',
    SAME: '= the same',
    REFUSED: '✕ refused'
  };
  /** As many rows as one looks through here. */
  const SHOWN = 300;
  const client = useQueryClient();
  let kind = $state(untrack(() => kinds[0]?.[0] ?? ''));
  let file = $state<File>();
  let seen = $state<Seen>();
  let headers = $state<Record<string, string>>({});
  let only = $state<Fate>();
  let busy = $state('');
  let problem = $state('');
  const path = $derived(`/api/stock/files/${kind}`);
  const query = $derived(
    Object.entries(headers)
      .map(([column, header]) => `&header=${encodeURIComponent(`${column}=${header}`)}`)
      .join('')
  );
  const lacking = $derived(seen?.columns.filter((c) => c.required && !c.header) ?? []);
  const rows = $derived(seen?.rows.filter((r) => (only ? r.fate === only : r.fate !== 'SAME')) ?? []);
  const of = (fate: Fate) => seen?.counts[fate] ?? 0;
  const changes = $derived(of('NEW') + of('CHANGED'));

  function forget() {
    seen = undefined;
    headers = {};
    only = undefined;
    problem = '';
  }
  async function attempt(saying: string, what: () => Promise<void>) {
    busy = saying;
    problem = '';
    try {
      await what();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    } finally {
      busy = '';
    }
  }
  const look = () =>
    attempt('Looking at every row…', async () => {
      if (file) seen = await upload<Seen>(`${path}/check?${query}`, file);
    });
  const take = (goodOnly: boolean) =>
    attempt('Taking it in…', async () => {
      if (!file) return;
      const taken = await upload<Schemas['StockFilesTaken']>(`${path}?goodOnly=${goodOnly}${query}`, file);
      open = false;
      toasts.say(
        `${plural(taken.taken, 'change')} taken in${taken.refused ? `, ${plural(taken.refused, 'row')} left out` : ''}`
      );
      await client.invalidateQueries();
    });
</script>

<Dialog bind:open {title} wide>
  <div class="flex items-end gap-3">
    <label class="text-soft"
      >Of what<select
        class="field mt-1 block w-44"
        bind:value={kind}
        onchange={() => {
          forget();
          file = undefined;
        }}
        data-autofocus
        >{#each kinds as [value, label] (value)}<option {value}>{label}</option>{/each}</select
      ></label
    >
    <p class="pb-1.5 text-soft">
      All there is: <a class="text-verdigris underline" href="{path}/out?format=csv" download>CSV</a>,
      <a class="text-verdigris underline" href="{path}/out?format=xlsx" download>XLSX</a>. To fill in:
      <a class="text-verdigris underline" href="{path}/template?format=csv" download>CSV</a>,
      <a class="text-verdigris underline" href="{path}/template?format=xlsx" download>XLSX</a>
    </p>
  </div>
  {#if session.mayChange}
    {#key kind}
      <FileButton
        text="Take in a file…"
        label="A file to take in"
        accept=".csv,.tsv,.txt,.xlsx"
        onfile={(chosen) => {
          forget();
          file = chosen;
          void look();
        }}
      />
    {/key}
  {/if}
  {#if seen}
    <details open={lacking.length > 0}>
      <summary class="cursor-default"
        >{lacking.length
          ? `Say which column holds the ${lacking.map((c) => c.column).join(', the ')}`
          : `${count(seen.columns.filter((c) => c.header).length)} columns are read`}</summary
      >
      <div class="mt-1 grid grid-cols-3 gap-x-3 gap-y-1">
        {#each seen.columns as c (c.column)}
          <label class="text-soft" title={c.hint}
            >{c.column}{c.required ? ' *' : ''}<select
              class="field mt-0.5 block h-7 w-full py-0"
              value={c.header ?? ''}
              onchange={(event) => {
                headers = { ...headers, [c.column]: event.currentTarget.value };
                void look();
              }}
              ><option value="">—</option>{#each seen.headers.filter(Boolean) as h (h)}<option value={h}
                  >{h}</option
                >{/each}</select
            ></label
          >
        {/each}
      </div>
    </details>
    {#if !lacking.length}
      <div class="flex gap-3">
        {#each ['NEW', 'CHANGED', 'SAME', 'REFUSED'] as Fate[] as fate (fate)}
          <button
            class={[
              'hover:underline',
              only === fate && 'font-[650]',
              fate === 'REFUSED' && of(fate) && 'text-madder'
            ]}
            aria-pressed={only === fate}
            onclick={() => (only = only === fate ? undefined : fate)}>{FATES[fate]} {count(of(fate))}</button
          >
        {/each}
      </div>
      <div class="max-h-64 overflow-y-auto border-t border-line">
        <table class="w-full">
          <tbody>
            {#each rows.slice(0, SHOWN) as r (r.row)}
              <tr class={['border-b border-line align-top', r.fate === 'REFUSED' && 'text-madder']}>
                <td class="py-1 pe-2 text-right text-soft">{r.row}</td>
                <td class="pe-2 whitespace-nowrap">{FATES[r.fate]}</td>
                <td class="max-w-60 truncate pe-2" title={r.key}>{r.key}</td>
                <td>{r.what}</td>
              </tr>
            {/each}
          </tbody>
        </table>
        {#if rows.length > SHOWN}<p class="py-1 text-soft">and {count(rows.length - SHOWN)} more</p>{/if}
      </div>
    {/if}
  {/if}
  <p class={['min-h-5', problem ? 'text-madder' : 'text-soft']} role={problem ? 'alert' : 'status'}>
    {problem || busy}
  </p>
  {#if seen && !lacking.length}
    <div class="flex items-center gap-2">
      <Button main disabled={!changes || of('REFUSED') > 0 || busy !== ''} onclick={() => void take(false)}
        >Take all of it</Button
      >
      {#if of('REFUSED') > 0}
        <Button disabled={!changes || busy !== ''} onclick={() => void take(true)}
          >Take what is good: {plural(changes, 'change')}</Button
        >
        <span class="text-soft">or correct the file and look again: what is taken twice changes nothing</span>
      {/if}
    </div>
  {/if}
</Dialog>
