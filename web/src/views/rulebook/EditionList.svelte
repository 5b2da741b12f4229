<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, moment } from '../../parts/format';
  import { param, setParams } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import DifferenceList from './DifferenceList.svelte';

  let { onback }: { onback: (number: number) => void } = $props();

  const editions = createQuery(() => ({
    queryKey: ['rulebook', 'editions'],
    queryFn: () => get(api.GET('/api/rulebook/editions'))
  }));
  const open = $derived(Number(param('edition')));
  const differs = createQuery(() => ({
    queryKey: ['rulebook', 'editions', open, 'differences'],
    enabled: open > 1,
    queryFn: () =>
      get(api.GET('/api/rulebook/editions/{number}/differences', { params: { path: { number: open } } }))
  }));
</script>

<div class="card min-w-0 flex-1 self-start overflow-x-auto">
  <table class="w-full">
    <thead
      ><tr class="h-8"
        ><th class="px-4">Edition</th><th class="px-2">What it changed</th><th class="px-2">Made live</th><th
          class="px-2 text-right">Orders routed by it</th
        ><th class="px-4"></th></tr
      ></thead
    >
    <tbody>
      {#each editions.data ?? [] as e (e.number)}
        <tr class="h-9 border-t border-line hover:bg-sunk">
          <td class="px-4 font-[600]"
            >{e.number}{#if e.live}<span
                class="ms-2 rounded-sm border border-verdigris px-1 text-xs font-normal text-verdigris"
                >live</span
              >{/if}</td
          >
          <td class="max-w-96 truncate px-2" title={e.note}>{e.note}</td>
          <td class="px-2 text-soft">{moment(e.at)}, {e.by}</td>
          <td class="px-2 text-right">{count(e.decisions)}</td>
          <td class="px-4 text-right">
            <span class="inline-flex items-center gap-2">
              {#if e.number > 1}<Button
                  small
                  onclick={() => setParams({ edition: open === e.number ? '' : String(e.number) })}
                  >{open === e.number ? 'Fold' : 'Differences'}</Button
                >{/if}
              <a
                class="text-verdigris hover:underline"
                href="/api/rulebook/editions/{e.number}/file"
                aria-label="Edition {e.number} as a file"
                download>file</a
              >
              {#if session.mayChange && !e.live}<Button small onclick={() => onback(e.number)}
                  >Go back to it…</Button
                >{/if}
            </span>
          </td>
        </tr>
        {#if open === e.number}
          <tr class="border-t border-line bg-sunk"
            ><td class="px-4 py-3" colspan="5"
              >{#if differs.data}<DifferenceList differs={differs.data} />{:else if differs.isError}{differs
                  .error.message}{:else}Reading…{/if}</td
            ></tr
          >
        {/if}
      {/each}
    </tbody>
  </table>
  {#if editions.isError}<p class="p-4 text-madder">{editions.error.message}</p>{/if}
</div>
