<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import { day } from '../../parts/format';
  import { money } from '../../parts/money';

  let { id }: { id: number } = $props();

  let without = $state('');
  let more = $state(0);
  let laterDays = $state(0);
  const answer = createQuery(() => ({
    queryKey: ['what-if', id, without, more, laterDays],
    retry: false,
    queryFn: () =>
      get(
        api.GET('/api/orders/{id}/what-if', {
          params: { path: { id }, query: { without, more, laterDays } }
        })
      )
  }));
  const a = $derived(answer.data);
  const asks = $derived(without !== '' || more > 0 || laterDays > 0);
  const difference = $derived(a?.then.how && a.now.how ? a.then.how.cost - a.now.how.cost : undefined);

  const words = (o: Schemas['WhatIfOutcome']) =>
    o.how
      ? `${o.how.nodes.map((n) => a!.nodeNames[n] ?? n).join(' + ')}, ${money(o.how.cost, a!.currency)}, arrives ${day(o.how.arrival)}${o.how.late ? ', late' : ''}`
      : 'no rung could';
  const LIST = 'field h-7 py-0 ps-2 pe-7';
</script>

<section class="mb-4 rounded-md border border-line bg-sheet px-3 py-2">
  <div class="flex flex-wrap items-center gap-1.5">
    <b class="font-[600]">What if</b>
    <select class={LIST} aria-label="Without which node" bind:value={without}>
      <option value="">all nodes</option>
      {#each Object.entries(a?.nodeNames ?? {}) as [code, name] (code)}<option value={code}
          >without {name}</option
        >{/each}
    </select>
    <select class={LIST} aria-label="How many more consignments" bind:value={more}>
      <option value={0}>as many parcels</option>
      {#each [1, 2, 3] as n (n)}<option value={n}>{n} more</option>{/each}
    </select>
    {#if a?.asked}
      <select class={LIST} aria-label="How much later" bind:value={laterDays}>
        <option value={0}>on the day asked for</option>
        {#each [1, 2, 3, 7] as n (n)}<option value={n}>{n} {n === 1 ? 'day' : 'days'} later</option>{/each}
      </select>
    {/if}
  </div>
  <p class="mt-1.5" aria-live="polite">
    {#if answer.isError}<span class="text-soft">{answer.error.message}</span>
    {:else if a}
      <span class="text-soft">{asks ? 'then' : 'now'}</span>
      {words(a.then)}
      {#if difference !== undefined && asks}<b
          class={['font-[600]', difference > 0 ? 'text-madder' : difference < 0 && 'text-verdigris']}
          >{difference === 0
            ? '± 0'
            : `${difference > 0 ? '+' : '−'} ${money(Math.abs(difference), a.currency)}`}</b
        >{/if}
      {#if a.then.rung}<span class="text-soft">· “{a.then.rung}”</span>{/if}
      <a
        class="ms-2 text-verdigris underline"
        href="/api/orders/{id}/case"
        download
        title="All that routing looks at, as a file for ./ordinator plan">as a planning case</a
      >
    {:else}<span class="text-soft">…</span>{/if}
  </p>
</section>
