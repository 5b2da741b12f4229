<script lang="ts">
  import { createInfiniteQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { ago, fullMoment } from '../../parts/format';
  import { param, setParams } from '../../state/address';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import { typeOf } from './hooks';

  let { channelId }: { channelId: number } = $props();

  const failed = $derived(param('failed') === '1');
  const deliveries = createInfiniteQuery(() => ({
    queryKey: ['channels', 'deliveries', channelId, failed],
    queryFn: ({ pageParam }) =>
      get(
        api.GET('/api/channels/{channel}/hooks/deliveries', {
          params: { path: { channel: channelId }, query: { failed, after: pageParam } }
        })
      ),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => (last.next ? Number(last.next) : undefined),
    refetchInterval: 5_000
  }));
  const rows = $derived(deliveries.data?.pages.flatMap((p) => p.rows) ?? []);
  type Row = (typeof rows)[number];
  const run = useDoing();
  let opened = $state<number>();

  const again = (delivery: number) =>
    run(
      get(
        api.POST('/api/channels/{channel}/hooks/deliveries/{delivery}/again', {
          params: { path: { channel: channelId, delivery } }
        })
      ),
      'Sent again, under the same id'
    );
  const outcome = (d: Row) =>
    d.state === 'DONE'
      ? `✓ ${d.status}`
      : d.state === 'DEAD'
        ? `✕ given up after ${d.attempts}: ${d.status ?? 'no answer'}`
        : d.attempts
          ? `… ${d.status ?? 'no answer'}, again ${ago(d.dueAt)}`
          : '… on its way';
</script>

<label class="mb-2 flex items-center gap-1.5"
  ><input
    type="checkbox"
    class="size-3.5 rounded-sm border-faint"
    checked={failed}
    onchange={(event) => setParams({ failed: event.currentTarget.checked ? '1' : '' })}
  /> only what was not taken</label
>
<table class="w-full table-fixed">
  <thead
    ><tr
      ><th class="w-28 py-1 pe-2">When</th><th class="w-36 pe-2">Of</th><th class="w-28 pe-2">Order</th><th
        class="pe-2">To</th
      ><th class="w-56 pe-2">Answer</th><th class="w-24"><span class="sr-only">Actions</span></th></tr
    ></thead
  >
  <tbody>
    {#each rows as d (d.id)}
      <tr class="h-8 border-t border-line">
        <td class="pe-2 text-soft" title={fullMoment(d.createdAt)}>{ago(d.createdAt)}</td>
        <td class="pe-2 font-mono text-xs"
          ><button
            class="hover:underline"
            aria-expanded={opened === d.id}
            onclick={() => (opened = opened === d.id ? undefined : d.id)}>{typeOf(d.kind)}</button
          ></td
        >
        <td class="pe-2 font-mono text-xs"
          >{#if d.orderId}<a class="hover:underline" href="#/orders/{d.orderId}">{d.orderNumber}</a>{/if}</td
        >
        <td class="truncate pe-2 font-mono text-xs">{d.address}</td>
        <td class={['truncate pe-2', d.state === 'DEAD' && 'text-madder']}>{outcome(d)}</td>
        <td class="text-right"
          >{#if session.mayChange && d.state !== 'PENDING'}<Button small onclick={() => void again(d.id)}
              >Send again</Button
            >{/if}</td
        >
      </tr>
      {#if opened === d.id}
        <tr
          ><td colspan="6" class="bg-sunk px-2 py-1.5">
            <p class="text-xs text-soft">Sent, as <span class="font-mono">{d.messageId}</span></p>
            <!-- svelte-ignore a11y_no_noninteractive_tabindex (what scrolls must be reached by keyboard) -->
            <pre
              tabindex="0"
              class="mb-1 max-h-40 overflow-auto font-mono text-xs whitespace-pre-wrap">{d.body}</pre>
            <p class="text-xs text-soft">Answered</p>
            <pre class="font-mono text-xs whitespace-pre-wrap">{d.answer || '(nothing)'}</pre>
          </td></tr
        >
      {/if}
    {:else}
      <tr
        ><td class="py-2 text-soft" colspan="6"
          >{deliveries.isPending
            ? 'Reading…'
            : 'Nothing was told yet. Messages and their answers are kept here for 30 days.'}</td
        ></tr
      >
    {/each}
  </tbody>
</table>
{#if deliveries.hasNextPage}
  <div class="pt-2"><Button small onclick={() => void deliveries.fetchNextPage()}>Earlier</Button></div>
{/if}
