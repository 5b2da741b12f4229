<script lang="ts">
  import { createInfiniteQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { ago, fullMoment } from '../../parts/format';
  import { param, setParams } from '../../state/address';

  let { channelId }: { channelId: number } = $props();

  const failed = $derived(param('failed') === '1');
  const exchanges = createInfiniteQuery(() => ({
    queryKey: ['channels', 'exchanges', channelId, failed],
    queryFn: ({ pageParam }) =>
      get(
        api.GET('/api/channels/{id}/exchanges', {
          params: { path: { id: channelId }, query: { failed, after: pageParam } }
        })
      ),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => (last.next ? Number(last.next) : undefined)
  }));
  const rows = $derived(exchanges.data?.pages.flatMap((p) => p.rows) ?? []);
  let opened = $state<number>();
</script>

<label class="mb-2 flex items-center gap-1.5"
  ><input
    type="checkbox"
    class="size-3.5 rounded-sm border-faint"
    checked={failed}
    onchange={(event) => setParams({ failed: event.currentTarget.checked ? '1' : '' })}
  /> only what failed</label
>
<table class="w-full table-fixed">
  <thead
    ><tr
      ><th class="w-28 py-1 pe-2">When</th><th class="w-28 pe-2">About</th><th class="pe-2">Asked</th><th
        class="w-24 pe-2">Answer</th
      ><th class="w-20 pe-2 text-right">Took</th></tr
    ></thead
  >
  <tbody>
    {#each rows as x (x.id)}
      {@const bad = x.status == null || x.status >= 400}
      <tr class="h-7 border-t border-line">
        <td class="pe-2 text-soft" title={fullMoment(x.at)}>{ago(x.at)}</td>
        <td class="pe-2">{x.purpose}</td>
        <td class="truncate pe-2 font-mono text-xs"
          ><button
            class="max-w-full truncate hover:underline"
            aria-expanded={opened === x.id}
            onclick={() => (opened = opened === x.id ? undefined : x.id)}>{x.method} {x.address}</button
          ></td
        >
        <td class={['pe-2', bad && 'text-madder']}>{bad ? '✕' : '✓'} {x.status ?? 'none'}</td>
        <td class="pe-2 text-right text-soft">{x.millis} ms</td>
      </tr>
      {#if opened === x.id}
        <tr
          ><td colspan="5" class="bg-sunk px-2 py-1.5">
            {#if x.request}<p class="text-xs text-soft">Sent</p>
              <!-- svelte-ignore a11y_no_noninteractive_tabindex (what scrolls must be reached by keyboard) -->
              <pre
                tabindex="0"
                class="mb-1 max-h-40 overflow-auto font-mono text-xs whitespace-pre-wrap">{x.request}</pre>
            {/if}
            <p class="text-xs text-soft">Answered</p>
            <!-- svelte-ignore a11y_no_noninteractive_tabindex (likewise) -->
            <pre
              tabindex="0"
              class="max-h-60 overflow-auto font-mono text-xs whitespace-pre-wrap">{x.answer ||
                '(nothing)'}</pre>
          </td></tr
        >
      {/if}
    {:else}
      <tr
        ><td class="py-2 text-soft" colspan="5"
          >{exchanges.isPending
            ? 'Reading…'
            : 'Nothing was said yet. Requests and answers are kept here for 30 days, without what is secret.'}</td
        ></tr
      >
    {/each}
  </tbody>
</table>
{#if exchanges.hasNextPage}
  <div class="pt-2"><Button small onclick={() => void exchanges.fetchNextPage()}>Earlier</Button></div>
{/if}
