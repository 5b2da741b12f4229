<!-- Days of the year on which a node does not work; its country's public ones can be taken over. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { fullDay, plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';

  interface Props {
    open: boolean;
    code: string;
    name: string;
    country: string;
  }
  let { open = $bindable(), code, name, country }: Props = $props();

  const run = useDoing();
  const today = new Date().toISOString().slice(0, 10);
  const thisYear = new Date().getFullYear();
  const kept = createQuery(() => ({
    queryKey: ['network', 'holidays', code],
    queryFn: () => get(api.GET('/api/network/nodes/{code}/holidays', { params: { path: { code } } }))
  }));
  let year = $state(thisYear);
  const known = createQuery(() => ({
    queryKey: ['network', 'public-holidays', country, year],
    staleTime: Infinity,
    retry: false,
    queryFn: () => get(api.GET('/api/network/public-holidays', { params: { query: { country, year } } }))
  }));
  let changed = $state<string[]>();
  let another = $state('');
  const days = $derived(changed ?? kept.data ?? []);
  const coming = $derived((known.data ?? []).filter((h) => h.day >= today));
  const missing = $derived(coming.filter((h) => !days.includes(h.day)));
  const names = $derived(new Map((known.data ?? []).map((h) => [h.day, h.name])));

  const put = (more: string[]) =>
    (changed = [...new Set([...days, ...more])].filter((d) => d >= today).toSorted());
  const drop = (day: string) => (changed = days.filter((d) => d !== day));
  const set = (to: string[]) =>
    get(api.PUT('/api/network/nodes/{code}/holidays', { params: { path: { code } }, body: { days: to } }));

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const before = kept.data ?? [];
    await run(
      set(days),
      `${name} does not work on ${plural(days.length, 'day')} to come`,
      () => void run(set(before), 'Its holidays are as before')
    );
    open = false;
  }
</script>

<Dialog bind:open title="Holidays of {name}">
  <form class="space-y-3" onsubmit={keep}>
    <p class="flex flex-wrap items-center gap-2">
      <select class="field h-8 py-0 ps-2 pe-7" aria-label="Year" bind:value={year} data-autofocus
        >{#each [thisYear, thisYear + 1, thisYear + 2] as y (y)}<option value={y}>{y}</option>{/each}</select
      >
      {#if known.isError}<span class="text-soft">{known.error.message}</span>
      {:else}<Button small disabled={!missing.length} onclick={() => put(missing.map((h) => h.day))}
          >{missing.length
            ? `Take ${plural(missing.length, 'public holiday')} of ${country}`
            : `All public holidays of ${country} are in`}</Button
        >{/if}
    </p>
    <ul class="max-h-64 overflow-y-auto">
      {#each days as d (d)}
        <li class="flex h-7 items-center gap-2 border-t border-line">
          <span class="tabular-nums">{fullDay(d)}</span>
          <span class="truncate text-soft">{names.get(d) ?? ''}</span>
          <button
            type="button"
            class="ms-auto px-1 text-soft hover:text-madder"
            aria-label="{fullDay(d)} is a working day"
            onclick={() => drop(d)}>✕</button
          >
        </li>
      {:else}<li class="text-soft">{kept.data ? 'It works through the whole year.' : 'Reading…'}</li>{/each}
    </ul>
    <p class="flex items-center gap-2">
      <input class="field h-8" type="date" min={today} aria-label="Another day" bind:value={another} />
      <Button
        small
        disabled={!another || another < today}
        onclick={() => {
          put([another]);
          another = '';
        }}>Add this day</Button
      >
    </p>
    <Button main type="submit" disabled={!changed}>Keep</Button>
  </form>
</Dialog>
