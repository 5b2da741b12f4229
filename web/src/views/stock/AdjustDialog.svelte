<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { word } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';
  import { emptyPart, spread } from './receive';

  interface Props {
    open: boolean;
    id: number;
    sku: string;
    nodes: Schemas['StockGridNodeHead'][];
  }
  let { open = $bindable(), id, sku, nodes }: Props = $props();

  const client = useQueryClient();
  let nodeId = $state(untrack(() => nodes[0]?.id ?? 0));
  const REASONS = {
    RECEIPT: { word: 'received', label: 'Units received', sign: 1 },
    RETURN: { word: 'sent back', label: 'Units sent back', sign: 1 },
    COUNT: { word: 'counted', label: 'Units counted', sign: 1 },
    SCRAP: { word: 'scrapped', label: 'Units scrapped', sign: -1 },
    ADJUST: { word: 'corrected', label: 'Units more, or less (−)', sign: 1 }
  };
  type Reason = keyof typeof REASONS;
  let reason = $state<Reason>('RECEIPT');
  let units = $state(1);
  let note = $state('');
  let problem = $state('');
  const where = createQuery(() => ({
    queryKey: ['stock', 'places', id],
    queryFn: () => get(api.GET('/api/stock/items/{id}/places', { params: { path: { id } } }))
  }));
  const by = $derived(where.data?.tracking.by ?? 'NOTHING');
  const places = $derived(where.data?.places.filter((p) => p.nodeId === nodeId) ?? []);
  let placeId = $state<number | null>(null);
  let part = $state(emptyPart());
  $effect(() => {
    if (!places.some((p) => p.id === placeId)) placeId = by === 'NOTHING' ? null : (places[0]?.id ?? null);
  });
  const byLot = $derived(by !== 'NOTHING' && reason === 'RECEIPT');

  async function save(event: SubmitEvent) {
    event.preventDefault();
    const change = reason === 'COUNT' ? null : REASONS[reason].sign * units;
    try {
      if (byLot) {
        const parts = spread([{ ...part, units }]);
        const lines = [{ itemId: id, expectedId: null, parts }];
        const body = { nodeId, supplier: 'not announced', number: '', note, restComes: false, lines };
        await get(api.POST('/api/stock/receipts', { body }));
        open = false;
        toasts.say(`${sku}: ${units} of lot ${part.lot} taken in`);
        await client.invalidateQueries();
        return;
      }
      const now = await get(
        api.POST('/api/stock/items/{id}/adjustments', {
          params: { path: { id } },
          body: { nodeId, placeId, reason, counted: reason === 'COUNT' ? units : null, change, note }
        })
      );
      open = false;
      toasts.say(`${sku}: ${now.onHand} on hand now, ${now.available} available`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="Stock of {sku}">
  <form class="space-y-3" onsubmit={save}>
    <fieldset class="flex flex-wrap gap-x-4 gap-y-1">
      <legend class="sr-only">What happened</legend>
      {#each Object.keys(REASONS) as Reason[] as r (r)}
        <label
          ><input type="radio" value={r} bind:group={reason} class="accent-verdigris" />
          {REASONS[r].word}</label
        >
      {/each}
    </fieldset>
    <label class="block text-soft"
      >Node
      <select class="field mt-1 block w-full" bind:value={nodeId}
        >{#each nodes as n (n.id)}<option value={n.id}>{n.name}</option>{/each}</select
      >
    </label>
    {#if byLot}
      <div class="flex gap-3">
        <label class="min-w-0 flex-1 text-soft"
          >Lot<input
            class="field mt-1 block w-full font-mono"
            maxlength="40"
            required
            bind:value={part.lot}
          /></label
        >
        {#if by === 'EXPIRY'}<label class="text-soft"
            >Use until<input class="field mt-1 block w-36" type="date" bind:value={part.expires} /></label
          >{/if}
        <label class="w-20 text-soft"
          >Bin<input class="field mt-1 block w-full font-mono" maxlength="20" bind:value={part.bin} /></label
        >
      </div>
    {:else if places.length > 1 || by !== 'NOTHING'}
      <label class="block text-soft"
        >Which of it
        <select class="field mt-1 block w-full" bind:value={placeId}
          >{#if by === 'NOTHING'}<option value={null}>wherever it lies</option>{/if}
          {#each places as p (p.id)}<option value={p.id}
              >{[p.bin && `bin ${p.bin}`, p.lot && `lot ${p.lot}`, p.state !== 'SELLABLE' && word(p.state)]
                .filter(Boolean)
                .join(', ') || 'no bin'} · {p.onHand}</option
            >{/each}</select
        >
      </label>
    {/if}
    <label class="block text-soft"
      >{REASONS[reason].label}
      <input
        class="field mt-1 block w-full"
        type="number"
        min={reason === 'ADJUST' ? undefined : reason === 'COUNT' ? 0 : 1}
        step="1"
        bind:value={units}
        required
      />
    </label>
    <label class="block text-soft"
      >{reason === 'ADJUST' ? 'Why' : 'Note'}<input
        class="field mt-1 block w-full"
        bind:value={note}
        maxlength="400"
        required={reason === 'ADJUST'}
      /></label
    >
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Record it</Button>
  </form>
</Dialog>
