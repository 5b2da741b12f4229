<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { REASONS, type Return } from './words';

  interface Props {
    open: boolean;
    orderId: number;
    number: string;
  }
  let { open = $bindable(), orderId, number }: Props = $props();

  const run = useDoing();
  const path = $derived({ params: { path: { order: orderId } } });
  const query = createQuery(() => ({
    queryKey: ['returnable', orderId],
    queryFn: () => get(api.GET('/api/orders/{order}/returnable', path))
  }));
  const nodes = createQuery(() => ({
    queryKey: ['stock', 'nodes'],
    queryFn: () => get(api.GET('/api/stock/nodes'))
  }));
  const lines = $derived((query.data?.lines ?? []).filter((l) => l.left > 0));
  const usual = $derived(nodes.data?.find((n) => n.id === query.data?.node));
  let units = $state<Record<number, number>>({});
  let reason = $state<Return['reason']>('UNWANTED');
  let note = $state('');
  let node = $state('');
  const all = $derived(Object.values(units).reduce((sum, n) => sum + (n || 0), 0));

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    open = false;
    let made: Return | undefined;
    await run(
      get(
        api.POST('/api/orders/{order}/returns', {
          ...path,
          body: {
            reason,
            note,
            node: node || null,
            units: Object.fromEntries(Object.entries(units).filter(([, n]) => n > 0))
          }
        })
      ).then((card) => (made = card)),
      'The return is open',
      () =>
        void run(
          get(api.POST('/api/returns/{id}/call-off', { params: { path: { id: made!.id } } })),
          'Called off'
        )
    );
  }
</script>

<Dialog bind:open title="What of {number} comes back?" wide>
  <form class="space-y-3" onsubmit={submit}>
    {#if lines.length}
      <table class="w-full">
        <thead
          ><tr
            ><th class="py-1 pe-2">Item</th><th class="px-2">Sent with</th><th class="px-2 text-right"
              >Can come back</th
            ><th class="ps-2 text-right">Comes back</th></tr
          ></thead
        >
        <tbody>
          {#each lines as line, i (line.id)}
            <tr class="border-t border-line">
              <td class="py-1 pe-2"
                >{line.item} <span class="font-mono text-xs text-soft">{line.sku}</span></td
              >
              <td class="px-2 font-mono text-xs">{line.consignment}</td>
              <td class="px-2 text-right">{line.left}</td>
              <td class="ps-2 text-right"
                ><input
                  class="field h-7 w-16 text-right"
                  type="number"
                  min="0"
                  max={line.left}
                  aria-label="Units of {line.item} that come back"
                  bind:value={units[line.id]}
                  data-autofocus={i === 0 ? '' : undefined}
                /></td
              >
            </tr>
          {/each}
        </tbody>
      </table>
      <div class="flex flex-wrap items-end gap-x-4 gap-y-2">
        <label class="text-soft"
          >Why<select class="field mt-0.5 block h-7" bind:value={reason}
            >{#each Object.entries(REASONS) as [key, text] (key)}<option value={key}>{text}</option
              >{/each}</select
          ></label
        >
        <label class="text-soft"
          >Back to<select class="field mt-0.5 block h-7" bind:value={node}
            ><option value="">{usual ? `${usual.name}, as usual` : 'as usual'}</option
            >{#each nodes.data ?? [] as n (n.id)}{#if n.id !== usual?.id}<option value={n.code}
                  >{n.name}</option
                >{/if}{/each}</select
          ></label
        >
        <label class="min-w-48 flex-1 text-soft"
          >In the buyer’s words<input
            class="field mt-0.5 block h-7 w-full"
            bind:value={note}
            maxlength="400"
          /></label
        >
      </div>
      <Button main type="submit" disabled={all === 0}>Open a return of {plural(all, 'unit')}</Button>
    {:else}
      <p class="text-soft">
        {query.isPending
          ? 'Reading…'
          : query.isError
            ? query.error.message
            : 'All that was sent has come back, or is to come.'}
      </p>
    {/if}
  </form>
</Dialog>
