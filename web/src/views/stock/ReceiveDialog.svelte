<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { count, day, plural } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';
  import {
    came,
    differs,
    emptyPart,
    firstPart,
    numbers,
    scanned,
    spread,
    type Awaited,
    type Part
  } from './receive';

  let { open = $bindable() }: { open: boolean } = $props();

  const client = useQueryClient();
  const deliveries = createQuery(() => ({
    queryKey: ['stock', 'deliveries'],
    queryFn: () => get(api.GET('/api/stock/deliveries'))
  }));
  const all = $derived(deliveries.data ?? []);
  let chosen = $state(0);
  const delivery = $derived(all[chosen]);
  let parts = $state<Record<number, Part[]>>({});
  let restComes = $state(true);
  let note = $state('');
  let code = $state('');
  let said = $state('');
  let problem = $state('');
  /** The line whose serial numbers are being scanned. */
  let numbering = $state<Awaited>();
  const of = (line: number): Part[] => (parts[line] ??= [emptyPart()]);
  const total = $derived(delivery?.lines.reduce((n, l) => n + came(parts[l.expectedId] ?? []), 0) ?? 0);
  const anyLots = $derived(delivery?.lines.some((l) => l.tracked !== 'NOTHING') ?? false);
  const short = $derived(delivery?.lines.some((l) => came(parts[l.expectedId] ?? []) < l.quantity) ?? false);

  $effect.pre(() => {
    delivery?.lines.forEach((line) => (parts[line.expectedId] ??= [firstPart(line)]));
  });

  function choose(at: number) {
    chosen = at;
    parts = {};
    numbering = undefined;
    said = '';
  }
  function scan(event: SubmitEvent) {
    event.preventDefault();
    const line = delivery && scanned(delivery.lines, code);
    if (numbering && !line && code.trim()) {
      const last = of(numbering.expectedId).at(-1)!;
      last.lot = `${last.lot} ${code.trim()}`.trim();
      last.units = numbers(last.lot).length;
      said = `${numbering.sku}: ${last.units} of ${numbering.quantity}, number ${code.trim()}`;
    } else if (line?.tracked === 'SERIAL') {
      numbering = line;
      said = `${line.sku}: now scan the numbers of its units`;
    } else if (line) {
      numbering = undefined;
      const last = of(line.expectedId).at(-1)!;
      last.units = (last.units ?? 0) + 1;
      said = `${line.sku}: ${came(of(line.expectedId))} of ${line.quantity}`;
    } else if (code.trim()) {
      said = `‘${code.trim()}’ is not expected with it`;
    }
    code = '';
  }
  function asExpected() {
    delivery?.lines.forEach((line) => {
      const [first] = of(line.expectedId);
      if (first && came(of(line.expectedId)) === 0) first.units = line.quantity;
    });
  }
  async function undo(id: number) {
    try {
      await get(
        api.POST('/api/stock/receipts/{id}/reversal', {
          params: { path: { id } },
          body: { reason: 'entered wrongly' }
        })
      );
      await client.invalidateQueries();
    } catch (error) {
      toasts.fail(error);
    }
  }
  async function take(event: SubmitEvent) {
    event.preventDefault();
    if (!delivery) return;
    try {
      const receipt = await get(
        api.POST('/api/stock/receipts', {
          body: {
            nodeId: delivery.nodeId,
            supplier: delivery.supplier,
            number: delivery.number,
            note,
            restComes,
            lines: delivery.lines
              .map((line) => ({
                itemId: line.itemId,
                expectedId: line.expectedId,
                parts: spread(of(line.expectedId), line.tracked === 'SERIAL')
              }))
              .filter((line) => line.parts.length || !restComes)
          }
        })
      );
      open = false;
      toasts.say(`${plural(total, 'unit')} taken in at ${delivery.node}`, () => void undo(receipt.id));
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="A delivery came" wide>
  {#if all.length}
    <div class="flex items-end gap-3">
      <label class="min-w-0 flex-1 text-soft"
        >Which<select
          class="field mt-1 block w-full"
          value={chosen}
          onchange={(event) => choose(Number(event.currentTarget.value))}
          >{#each all as d, i (i)}<option value={i}
              >{d.supplier}
              {d.number} · {d.node} · {day(d.due)} · {plural(d.lines.length, 'item')}</option
            >{/each}</select
        ></label
      >
      <form onsubmit={scan}>
        <label class="text-soft"
          >Scan what you unpack<input
            class="field mt-1 block w-52 font-mono"
            bind:value={code}
            autocomplete="off"
            spellcheck="false"
            data-autofocus
          /></label
        >
      </form>
    </div>
    <p class="min-h-5 text-soft" role="status">{said}</p>
    {#if delivery}
      <form class="space-y-3" onsubmit={take}>
        <div class="max-h-[22rem] overflow-y-auto">
          <table class="w-full">
            <thead
              ><tr
                ><th class="py-1">Item</th><th class="text-right">Expected</th><th class="ps-2">Good</th><th
                  >Damaged</th
                ><th>{anyLots ? 'Lot' : ''}</th><th>{anyLots ? 'Use until' : ''}</th><th>Bin</th><th></th></tr
              ></thead
            >
            <tbody>
              {#each delivery.lines as line (line.expectedId)}
                {#each of(line.expectedId) as part, i (i)}
                  <tr class={i === 0 ? 'border-t border-line' : ''}>
                    <td class="max-w-44 py-1 pe-2"
                      >{#if i === 0}<span class="block truncate" title={line.name}>{line.name}</span><span
                          class="font-mono text-xs text-soft">{line.sku}</span
                        >{/if}</td
                    >
                    <td class="text-right whitespace-nowrap"
                      >{#if i === 0}{count(line.quantity)}<br /><span class="text-xs font-[650] text-madder"
                          >{came(of(line.expectedId))
                            ? differs(line.quantity, came(of(line.expectedId)))
                            : ''}</span
                        >{/if}</td
                    >
                    <td class="ps-2"
                      ><input
                        class="field h-7 w-16 text-right"
                        type="number"
                        min="0"
                        aria-label="Good units of {line.sku}"
                        bind:value={part.units}
                      /></td
                    >
                    <td
                      ><input
                        class="field h-7 w-16 text-right"
                        type="number"
                        min="0"
                        aria-label="Damaged units of {line.sku}"
                        bind:value={part.damaged}
                      /></td
                    >
                    <td
                      >{#if line.tracked !== 'NOTHING'}<input
                          class="field h-7 w-24 font-mono text-xs"
                          maxlength={line.tracked === 'SERIAL' ? 4000 : 40}
                          placeholder={line.tracked === 'SERIAL' ? 'numbers' : ''}
                          aria-label="{line.tracked === 'SERIAL' ? 'Numbers' : 'Lot'} of {line.sku}"
                          bind:value={part.lot}
                          oninput={() => {
                            if (line.tracked === 'SERIAL') part.units = numbers(part.lot).length;
                          }}
                        />{/if}</td
                    >
                    <td
                      >{#if line.tracked === 'EXPIRY'}<input
                          class="field h-7 w-34"
                          type="date"
                          aria-label="{line.sku} may be used until"
                          bind:value={part.expires}
                        />{/if}</td
                    >
                    <td
                      ><input
                        class="field h-7 w-20 font-mono text-xs"
                        maxlength="20"
                        aria-label="Bin of {line.sku}"
                        bind:value={part.bin}
                      /></td
                    >
                    <td
                      >{#if i === of(line.expectedId).length - 1}<button
                          type="button"
                          class="px-1 text-verdigris hover:underline"
                          aria-label="More of {line.sku}, apart"
                          title={line.tracked === 'NOTHING' ? 'into another bin too' : 'of another lot too'}
                          onclick={() => of(line.expectedId).push(emptyPart())}>+</button
                        >{/if}</td
                    >
                  </tr>
                {/each}
              {/each}
            </tbody>
          </table>
        </div>
        {#if total && short}
          <fieldset class="flex gap-4">
            <legend class="sr-only">What is short</legend>
            <label
              ><input type="radio" value={true} bind:group={restComes} class="accent-verdigris" /> the rest is still
              to come</label
            >
            <label
              ><input type="radio" value={false} bind:group={restComes} class="accent-verdigris" /> no more of it
              comes</label
            >
          </fieldset>
        {/if}
        <label class="block text-soft"
          >Note<input class="field mt-1 block w-full" maxlength="400" bind:value={note} /></label
        >
        <p class="min-h-5 text-madder" role="alert">{problem}</p>
        <div class="flex gap-2">
          <Button main type="submit" disabled={!total}>Take in {total ? plural(total, 'unit') : ''}</Button>
          <Button onclick={asExpected}>All as expected</Button>
        </div>
      </form>
    {/if}
  {:else}
    <p class="text-soft">
      {deliveries.isPending
        ? 'Reading…'
        : 'Nothing is expected. Note in an item’s sheet what comes when; what comes unannounced is recorded there too.'}
    </p>
  {/if}
</Dialog>
