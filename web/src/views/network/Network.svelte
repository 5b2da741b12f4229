<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import FilesDialog from '../../parts/FilesDialog.svelte';
  import { count, day, plural, word } from '../../parts/format';
  import { money } from '../../parts/money';
  import { param, setParams } from '../../state/address';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import Closed from './Closed.svelte';
  import CloseDialog from './CloseDialog.svelte';
  import HolidaysDialog from './HolidaysDialog.svelte';
  import LanesDialog from './LanesDialog.svelte';
  import NodeDialog from './NodeDialog.svelte';
  import ZoneDialog from './ZoneDialog.svelte';
  import PauseDialog from '../routing/PauseDialog.svelte';
  import Pauses from '../routing/Pauses.svelte';
  import Times from '../routing/Times.svelte';
  import { best, workdays } from './ways';

  type Level = 'STANDARD' | 'EXPRESS';
  type Way = Schemas['NetworkWay'];
  const grams = $derived(Math.max(1, Number(param('grams')) || 2000));
  const level = $derived<Level>(param('level') === 'EXPRESS' ? 'EXPRESS' : 'STANDARD');
  const network = createQuery(() => ({
    queryKey: ['network', grams, level],
    placeholderData: (before: Schemas['NetworkShown'] | undefined) => before,
    queryFn: () => get(api.GET('/api/network', { params: { query: { grams, level } } }))
  }));
  const closures = createQuery(() => ({
    queryKey: ['network', 'closures'],
    queryFn: () => get(api.GET('/api/network/closures'))
  }));
  const pauses = createQuery(() => ({
    queryKey: ['routing', 'pauses'],
    queryFn: () => get(api.GET('/api/routing/pauses'))
  }));
  const paused = $derived(new Set((pauses.data ?? []).map((p) => p.node)));
  const run = useDoing();
  const nodes = $derived(network.data?.nodes ?? []);
  const senders = $derived(nodes.filter((n) => n.leaves));
  const currency = $derived(network.data?.currency ?? '');
  let closing = $state<string>();
  let resting = $state<string>();
  let pausing = $state(false);
  let filing = $state(false);
  let editing = $state<string>();
  let sending = $state<{ node: { code: string; name: string }; zone: string }>();
  let zoning = $state<string>();

  const openAgain = (c: Schemas['ClosuresClosure']) =>
    run(
      get(api.DELETE('/api/network/closures/{id}', { params: { path: { id: c.id } } })),
      `${c.nodeName} sends${c.laneName ? ` by ${c.laneName}` : ''} on those days again`,
      () =>
        void run(
          get(
            api.POST('/api/network/closures', {
              body: { node: c.node, lane: c.lane, first: c.first, last: c.last, reason: c.reason }
            })
          ),
          ''
        )
    );
</script>

{#snippet found(way: Way | undefined, marks: ReturnType<typeof best>, code: string)}
  {#if way}
    <span class={['tabular-nums', marks.cheapest === code && 'font-[650] text-verdigris']}
      >{marks.cheapest === code ? '◆ ' : ''}{money(way.cost, currency)}</span
    >
    <span class="block text-xs text-soft"
      >{marks.soonest === code ? '» ' : ''}{day(way.arrival)}, {plural(way.days, 'day')}</span
    >
  {:else}<span class="text-faint">–</span>{/if}
{/snippet}

<section class="flex min-h-0 min-w-0 flex-1 flex-col overflow-y-auto" aria-label="Network">
  <header class="flex items-baseline gap-3 px-4 pt-3 pb-2">
    <h1>{plural(senders.length, 'node')} send to {plural(network.data?.zones.length ?? 0, 'zone')}</h1>
    <span class="text-soft">released at this moment</span>
    {#if session.mayChange}<span class="ms-auto"
        ><Button small onclick={() => (zoning = '')}>New zone…</Button>
        <Button small onclick={() => (filing = true)}>Files…</Button>
        <Button small onclick={() => (pausing = true)}>Stop routing…</Button></span
      >{/if}
  </header>
  <div class="px-4"><Pauses /><Times /></div>
  {#if network.isError}<p class="px-4 text-madder">{network.error.message}</p>{/if}

  <div class="overflow-x-auto border-y border-line bg-sheet">
    <table class="w-full">
      <caption class="px-4 py-2 text-left">
        <span class="inline-flex flex-wrap items-center gap-1.5">
          A parcel of
          <input
            class="field h-7 w-24 text-right"
            type="number"
            min="0.1"
            max="1000"
            step="0.1"
            aria-label="Its weight in kilograms"
            value={grams / 1000}
            onchange={(event) =>
              setParams({ grams: String(Math.round((event.currentTarget.valueAsNumber || 2) * 1000)) })}
          />
          kg, one unit, by
          <select
            class="field h-7 py-0 ps-2 pe-7"
            aria-label="Level"
            value={level}
            onchange={(event) =>
              setParams({ level: event.currentTarget.value === 'EXPRESS' ? 'EXPRESS' : '' })}
            ><option value="STANDARD">standard or better</option><option value="EXPRESS">express</option
            ></select
          >
          <span class="text-soft">carriage and handling, {currency}; ◆ cheapest, » soonest of the zone</span>
        </span>
      </caption>
      <thead
        ><tr class="h-8 border-t border-line"
          ><th class="px-4">To</th>{#each senders as n (n.code)}<th class="px-2 text-right"
              >{n.name}{#if paused.has(n.code)}<span
                  class="ms-1 text-madder"
                  title="Nothing new is routed there">▲ paused</span
                >{/if}</th
            >{/each}</tr
        ></thead
      >
      <tbody>
        {#each network.data?.zones ?? [] as row (row.zone)}
          {@const marks = best(row.ways.filter((w) => !paused.has(w.node)))}
          <tr class="h-11 border-t border-line">
            <th class="px-4 text-left font-normal" scope="row"
              >{#if session.mayChange}<button
                  class="font-[600] hover:underline"
                  aria-label="What is in {word(row.zone)}"
                  onclick={() => (zoning = row.zone)}>{word(row.zone)}</button
                >{:else}<b class="font-[600]">{word(row.zone)}</b>{/if}
              <span class="block text-xs text-soft">{row.countries.join(', ')}</span></th
            >
            {#each senders as n (n.code)}
              {@const way = row.ways.find((w) => w.node === n.code)}
              <td
                class="px-2 text-right"
                title={way
                  ? `${way.carrier} ${way.service}${way.hazards.length ? `, carries ${way.hazards.join(', ')}` : ''}: carriage ${money(way.carriage, currency)}`
                  : 'no lane'}
              >
                {#if session.mayChange}<button
                    class="w-full text-right hover:underline"
                    aria-label="By what {n.name} sends to {word(row.zone)}"
                    onclick={() => (sending = { node: n, zone: row.zone })}
                    >{@render found(way, marks, n.code)}</button
                  >{:else}{@render found(way, marks, n.code)}{/if}
              </td>
            {/each}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>

  <div class="mt-4 overflow-x-auto border-y border-line bg-sheet">
    <table class="w-full">
      <thead
        ><tr class="h-8"
          ><th class="px-4">Node</th><th class="px-2">Where</th><th class="px-2">Works</th><th class="px-2"
            >Cut-off</th
          ><th class="px-2">Released now, it leaves</th><th class="px-2">That day</th><th
            class="px-2 text-right">Handling</th
          ><th class="px-2 max-[1100px]:hidden">May handle</th><th class="px-2">Next holiday</th><th
            class="px-4"
          ></th></tr
        ></thead
      >
      <tbody>
        {#each nodes as n (n.code)}
          <tr class="h-9 border-t border-line">
            <td class="px-4"
              >{#if session.mayChange && n.leaves}<button
                  class="font-[600] hover:underline"
                  aria-label="How {n.name} works"
                  onclick={() => (editing = n.code)}>{n.name}</button
                >{:else}<b class="font-[600]">{n.name}</b>{/if}
              <span class="text-soft">{n.code}, {word(n.kind)}</span></td
            >
            <td class="px-2 whitespace-nowrap">{n.city}, {n.country}</td>
            {#if n.leaves}
              <td class="px-2 whitespace-nowrap">{workdays(n.workdays)}</td>
              <td class="px-2 whitespace-nowrap" title="local time; and the working days that it needs"
                >{n.cutOff.slice(0, 5)}{n.processingDays ? ` + ${n.processingDays} d` : ''}
              </td>
              <td class="px-2">{day(n.leaves)}</td>
              <td class={['px-2 whitespace-nowrap', n.capacityLeft === 0 && 'font-[600] text-madder']}
                >{n.capacityPerDay == null
                  ? 'no limit'
                  : n.capacityLeft === 0
                    ? '▲ full'
                    : `${count(n.capacityLeft ?? 0)} of ${count(n.capacityPerDay)} left`}</td
              >
              <td class="px-2 text-right">{money(n.handling, currency)}</td>
              <td class="px-2 text-soft max-[1100px]:hidden">{n.hazards.join(', ')}</td>
              <td class="px-2 whitespace-nowrap text-soft"
                >{#if session.mayChange}<button
                    class="text-verdigris hover:underline"
                    aria-label="Holidays of {n.name}"
                    onclick={() => (resting = n.code)}>{n.holidays[0] ? day(n.holidays[0]) : 'none…'}</button
                  >{:else}{n.holidays[0] ? day(n.holidays[0]) : ''}{/if}</td
              >
              <td class="px-4 text-right"
                >{#if session.mayChange}<Button
                    small
                    aria-label="Close {n.name}…"
                    onclick={() => (closing = n.code)}>Close…</Button
                  >{/if}</td
              >
            {:else}
              <td class="px-2 text-soft" colspan="8">its channel sends from it by itself</td>
            {/if}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>

  {#if closures.data?.length}
    <h2 class="px-4 pt-4 pb-1 text-base font-[650]">Closed</h2>
    <ul class="px-4 pb-4">
      {#each closures.data as c (c.id)}
        <Closed closure={c} onopen={() => void openAgain(c)} />
      {/each}
    </ul>
  {/if}
</section>
{#if pausing}<PauseDialog bind:open={pausing} />{/if}
{#if filing}<FilesDialog
    bind:open={filing}
    title="The network as files"
    kinds={[
      ['nodes', 'Nodes'],
      ['capacity', 'Days with another capacity'],
      ['zones', 'Zones'],
      ['lanes', 'Lanes and rates']
    ]}
  />{/if}
{#if editing}<NodeDialog
    bind:open={() => true, (yes) => (editing = yes ? editing : undefined)}
    code={editing}
    {currency}
  />{/if}
{#if sending}<LanesDialog
    bind:open={() => true, (yes) => (sending = yes ? sending : undefined)}
    {...sending}
    {currency}
  />{/if}
{#if zoning !== undefined}<ZoneDialog
    bind:open={() => true, (yes) => (zoning = yes ? zoning : undefined)}
    zone={zoning}
  />{/if}
{#if resting}
  {@const node = nodes.find((n) => n.code === resting)}
  {#if node}<HolidaysDialog
      bind:open={() => true, (yes) => (resting = yes ? resting : undefined)}
      code={node.code}
      name={node.name}
      country={node.country}
    />{/if}
{/if}
{#if closing}
  {@const node = nodes.find((n) => n.code === closing)}
  {#if node}<CloseDialog
      bind:open={() => true, (yes) => (closing = yes ? closing : undefined)}
      code={node.code}
      name={node.name}
      today={node.leaves ?? ''}
    />{/if}
{/if}
