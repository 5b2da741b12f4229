<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';

  type Mapping = Schemas['SheetMapping'];
  interface Props {
    card: Schemas['FilesFileCard'];
    onmapped: () => void;
  }
  let { card, onmapped }: Props = $props();

  const client = useQueryClient();
  // what is being said here must not change while somebody says it
  const start = untrack(() => card.guess);
  let columns = $state<Record<string, number | undefined>>({ ...start.columns });
  let numbers = $state<Mapping['numbers'] | ''>(start.numbers ?? '');
  let days = $state<Mapping['days'] | ''>(start.days ?? '');
  let country = $state(start.country);
  let payment = $state(start.payment);
  let problem = $state('');
  let busy = $state(false);
  const sample = createQuery(() => ({
    queryKey: ['file', card.file.id, 'sample'],
    queryFn: () => get(api.GET('/api/intake/files/{id}/rows', { params: { path: { id: card.file.id } } }))
  }));
  const example = (column: number | undefined) =>
    column === undefined
      ? ''
      : (sample.data?.rows ?? [])
          .slice(0, 3)
          .map((r) => r.cells[column] ?? '')
          .join(' · ');

  const isAsked = (what: 'NUMBERS' | 'DAYS') => card.asks.some((a) => a.what === what);
  const title = (field: string) => card.fields.find((f) => f.field === field)?.title ?? field;

  async function map(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    problem = '';
    try {
      const chosen = Object.fromEntries(Object.entries(columns).filter(([, c]) => c !== undefined));
      const mapped = await get(
        api.PUT('/api/intake/files/{id}/mapping', {
          params: { path: { id: card.file.id } },
          body: {
            columns: chosen as Record<string, number>,
            numbers: numbers || null,
            days: days || null,
            country,
            payment
          }
        })
      );
      await client.invalidateQueries();
      if (!mapped.asks.length) onmapped();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    } finally {
      busy = false;
    }
  }
</script>

<form onsubmit={map}>
  <p class="mb-2 text-soft">Which column is which? It is remembered for files with the same first row.</p>
  <div class="grid grid-cols-2 gap-x-8">
    {#each card.fields as f (f.field)}
      <label class="flex h-8 items-center gap-2 border-t border-line">
        <span class="w-24 flex-none"
          >{f.title}{#if f.required}<span class="text-madder" title="must be there"> *</span>{/if}</span
        >
        <select class="field h-7 w-44 flex-none py-0" bind:value={columns[f.field]}>
          <option value={undefined}>{f.required ? 'choose…' : '(none)'}</option>
          {#each card.file.headers as header, i (i)}<option value={i}>{header || `column ${i + 1}`}</option
            >{/each}
        </select>
        <span class="truncate text-xs text-soft">{example(columns[f.field])}</span>
      </label>
    {/each}
  </div>
  {#if card.asks.length}
    <ul class="mt-3 border-t border-line pt-3 text-madder" aria-label="What the file leaves open">
      {#each card.asks as ask (ask.field)}
        <li>
          <b class="font-[650]">{title(ask.field)}</b>:
          {#if ask.readings.length > 1}
            ‘{ask.example}’ can be read as {ask.readings
              .map((r) => `${r.meaning} (if written like ${r.written})`)
              .join(' or as ')}.
          {:else}
            ‘{ask.example}’ and others are written in different ways.
          {/if}
          Say below how {ask.what === 'DAYS' ? 'days' : 'amounts'} look.
        </li>
      {/each}
    </ul>
  {/if}
  <div class="mt-3 flex flex-wrap items-center gap-3 border-t border-line pt-3">
    <label
      >Amounts look like
      <select class="field h-7 w-36 py-0" bind:value={numbers} aria-invalid={isAsked('NUMBERS')}>
        <option value="">as the file shows</option>
        <option value="POINT">1,234.50</option><option value="COMMA">1.234,50</option>
      </select></label
    >
    <label
      >Days look like
      <select class="field h-7 w-36 py-0" bind:value={days} aria-invalid={isAsked('DAYS')}>
        <option value="">as the file shows</option>
        <option value="YEAR_FIRST">2026-11-24</option><option value="YEAR_FIRST_SLASHES">2026/11/24</option>
        <option value="DOTS">24.11.2026</option><option value="DAY_FIRST">24/11/2026</option>
        <option value="MONTH_FIRST">11/24/2026</option><option value="DASHES">24-11-2026</option>
      </select></label
    >
    <label
      >Country where none is given
      <input class="field h-7 w-14 uppercase" maxlength="2" bind:value={country} /></label
    >
    <label
      >Payment where none is given
      <select class="field h-7 w-32 py-0" bind:value={payment}>
        <option value="paid">paid</option><option value="unpaid">unpaid</option>
        <option value="on_delivery">on delivery</option>
      </select></label
    >
    <span class="ms-auto"><Button main type="submit" disabled={busy}>Check every row</Button></span>
  </div>
  <p class="min-h-5 text-madder" role="alert">{problem}</p>
</form>
