<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, moment, plural } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import NewCountDialog from './NewCountDialog.svelte';

  const counts = createQuery(() => ({
    queryKey: ['stock', 'counts'],
    queryFn: () => get(api.GET('/api/counts'))
  }));
  const rows = $derived(counts.data ?? []);
  const open = $derived(rows.filter((c) => !c.closedAt).length);
  let making = $state(false);
</script>

<section class="flex min-h-0 flex-1 flex-col" aria-label="Counts">
  <header class="flex items-baseline gap-3 px-4 pt-3 pb-2">
    <h1>{plural(open, 'count')} under way</h1>
    <span class="ms-auto flex items-baseline gap-3">
      {#if session.mayChange}
        <a class="text-verdigris hover:underline" href="#/stock">back to the stock</a>
        <Button small main onclick={() => (making = true)}>New count…</Button>
      {/if}
    </span>
  </header>
  <div class="min-h-0 flex-1 overflow-y-auto border-t border-line">
    <table class="w-full">
      <thead class="sticky top-0 bg-paper shadow-[inset_0_-1px_var(--line)]"
        ><tr class="h-7"
          ><th class="px-4">Count</th><th class="px-2">Node</th><th class="px-2">How far</th><th class="px-2"
            >To be seen</th
          ><th class="px-2">Made</th><th class="px-2">Closed</th></tr
        ></thead
      >
      <tbody>
        {#each rows as c (c.id)}
          <tr class={['h-[34px] border-b border-line hover:bg-sunk', c.closedAt && 'text-soft']}>
            <td class="px-4"
              ><a class="hover:underline" href="#/stock/counts/{c.id}">{c.name}</a>{#if c.blind}<span
                  class="ms-2 rounded-sm border border-line px-1 text-xs text-soft">blind</span
                >{/if}</td
            >
            <td class="px-2">{c.node}</td>
            <td class="px-2">{count(c.counted)} of {plural(c.lines, 'place')}</td>
            <td class={['px-2', c.waiting && 'font-[650] text-madder']}
              >{c.waiting ? `▲ ${plural(c.waiting, 'difference')}` : ''}</td
            >
            <td class="px-2 text-soft">{moment(c.madeAt)}, {c.madeBy}</td>
            <td class="px-2 text-soft">{c.closedAt ? `${moment(c.closedAt)}, ${c.closedBy}` : ''}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if !rows.length}
      <p class="p-4 text-soft">
        {counts.isPending
          ? 'Reading…'
          : counts.isError
            ? counts.error.message
            : 'Nothing was ever counted by list. A new count lists what lies in some bins, to be walked by and checked.'}
      </p>
    {/if}
  </div>
</section>
{#if making}<NewCountDialog bind:open={making} />{/if}
