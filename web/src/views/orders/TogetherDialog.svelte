<!-- What would come of routing the chosen orders together; then it is done. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { count, day, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { useDoing } from '../../state/doing';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    open: boolean;
    orders: number[];
    ondone: () => void;
  }
  let { open = $bindable(), orders, ondone }: Props = $props();

  const chosen = { orders: untrack(() => [...orders]) };
  const run = useDoing();
  const preview = createQuery(() => ({
    queryKey: ['together', chosen],
    queryFn: () => get(api.POST('/api/routing/together/preview', { body: chosen })),
    gcTime: 0
  }));
  const p = $derived(preview.data);
  const sent = $derived(p?.planned.filter((o) => o.nodes.length) ?? []);
  const dry = $derived(p?.planned.filter((o) => !o.nodes.length) ?? []);
  const cost = $derived(sent.reduce((sum, o) => sum + o.cost, 0));
  const gap = $derived(p?.bound ? (100 * (p.total - p.bound)) / p.bound : 0);
  const from = (codes: string[]) => codes.map((c) => p?.nodeNames[c] ?? c).join(' + ');
  let busy = $state(false);

  async function route() {
    busy = true;
    const asked = get(api.POST('/api/routing/together', { body: chosen }));
    await run(asked, '');
    const done = await asked.catch(() => undefined);
    busy = false;
    if (done) {
      toasts.say(
        `${plural(done.routed, 'order')} routed` +
          (done.left.length ? `; ${done.left.length} not: ${done.left[0]!.number}, ${done.left[0]!.why}` : '')
      );
      open = false;
      ondone();
    }
  }

  async function saveCase() {
    try {
      const file = await get(api.POST('/api/routing/together/case', { body: chosen, parseAs: 'text' }));
      const link = document.createElement('a');
      link.href = URL.createObjectURL(new Blob([file as string], { type: 'application/json' }));
      link.download = `batch-of-${sent.length}.json`;
      link.click();
      URL.revokeObjectURL(link.href);
    } catch (error) {
      toasts.fail(error);
    }
  }
</script>

<Dialog bind:open wide title="Route {plural(orders.length, 'order')} together">
  {#if p}
    {#if sent.length}
      <p>
        <b class="font-[650]">{plural(sent.length, 'order')} would be sent</b> for {money(cost, p.currency)}
        {p.currency}, {Object.entries(p.consignments)
          .map(([code, n]) => `${count(n)} from ${p.nodeNames[code] ?? code}`)
          .join(', ')}.
        <span class="text-soft"
          >{gap < 0.005
            ? 'Nothing could cost less.'
            : `At most ${gap.toFixed(2)} % above what is possible at best.`}</span
        >
      </p>
    {/if}
    {#if dry.length}
      <p class="text-amber">
        ▲ Nothing is left for {dry.map((o) => o.number).join(', ')}.
      </p>
    {/if}
    {#if sent.length}
      <div class="max-h-72 overflow-y-auto border border-line">
        <table class="w-full">
          <thead class="sticky top-0 bg-sheet"
            ><tr class="h-7"
              ><th class="px-3">Order</th><th class="px-2">From</th><th class="px-2">Arrives</th><th
                class="px-3 text-right">Cost</th
              ></tr
            ></thead
          >
          <tbody>
            {#each sent as o (o.orderId)}
              <tr class="h-7 border-t border-line">
                <td class="px-3">{o.number}</td>
                <td class="px-2">{from(o.nodes)}</td>
                <td class={['px-2', o.late && 'text-madder']}
                  >{o.arrival ? day(o.arrival) : ''}{o.late ? ', late' : ''}</td
                >
                <td class="px-3 text-right tabular-nums">{money(o.cost, p.currency)}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    {/if}
    {#if p.left.length}
      <ul class="max-h-32 overflow-y-auto text-soft">
        {#each p.left as l (l.orderId)}<li><b class="font-[600]">{l.number}</b> {l.why}</li>{/each}
      </ul>
    {/if}
    <div class="flex items-center gap-2">
      <Button main disabled={busy || !(sent.length || p.left.length)} onclick={() => void route()}
        >Route them</Button
      >
      {#if sent.length}<Button disabled={busy} onclick={() => void saveCase()}>Save as a case</Button>{/if}
      <span class="text-soft">Nothing has happened yet.</span>
    </div>
  {:else if preview.isError}<p class="text-madder">{preview.error.message}</p>
  {:else}<p class="text-soft" role="status">Weighing them against one another…</p>{/if}
</Dialog>
