<script lang="ts">
  import { untrack } from 'svelte';
  import { tinykeys } from 'tinykeys';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { free } from '../../state/keys';
  import { DISPOSITIONS, likely, parts, sum, type Disposition, type Sorted } from './words';

  let { sheet }: { sheet: Schemas['ReturnsReturnSheet'] } = $props();

  const run = useDoing();
  const kinds = $derived(
    (Object.keys(DISPOSITIONS) as Disposition[]).filter(
      (d) => !sheet.atSupplier || d === 'SCRAP' || d === 'SUPPLIER'
    )
  );
  const awaited = (l: Schemas['ReturnsReturnLine']) => l.units - l.came;
  const lines = $derived(sheet.lines.filter((l) => awaited(l) > 0));
  // what most likely came is there already: all of it, as its reason suggests
  let sorted = $state<Record<number, Sorted>>(
    untrack(() =>
      Object.fromEntries(
        sheet.lines.map((l) => [l.id, { [likely(sheet.card.reason, sheet.atSupplier)]: awaited(l) }])
      )
    )
  );
  let lots = $state<Record<number, string>>(
    untrack(() => Object.fromEntries(sheet.lines.map((l) => [l.id, l.sent.lots[0] ?? ''])))
  );
  /** what is known of a lot that was not sent with the order, by line */
  let notes = $state<Record<number, string>>({});
  const wasNotSent = (l: Schemas['ReturnsReturnLine']) => {
    const lot = lots[l.id]?.trim();
    return !!lot && l.sent.lots.length > 0 && !l.sent.lots.includes(lot);
  };
  let restComes = $state(true);
  const units = $derived(lines.reduce((all, l) => all + sum(sorted[l.id] ?? {}), 0));
  const missing = $derived(lines.reduce((all, l) => all + awaited(l), 0) - units);
  const tooMany = $derived(lines.find((l) => sum(sorted[l.id] ?? {}) > awaited(l)));
  const ready = $derived(units > 0 && !tooMany);

  const book = () =>
    run(
      get(
        api.POST('/api/returns/{id}/arrival', {
          params: { path: { id: sheet.card.id } },
          body: { parts: parts(sorted, lots, notes), restComes }
        })
      ),
      `${plural(units, 'unit')} booked in at ${sheet.card.node}`
    );
  $effect(() =>
    tinykeys(window, {
      e: (event) => {
        if (free(event) && ready) void book();
      }
    })
  );
</script>

<form
  class="space-y-3"
  onsubmit={(event) => {
    event.preventDefault();
    void book();
  }}
>
  <h3 class="font-[650]">What came, and what becomes of it?</h3>
  {#each lines as line (line.id)}
    {@const its = sorted[line.id] ??= {}}
    <fieldset class="border-t border-line pt-2">
      <legend class="contents"
        ><span class="font-[650]">{awaited(line)} × {line.sent.item}</span>
        <span class="font-mono text-xs text-soft">{line.sent.sku}</span>
        <span class="text-xs text-soft">sent with {line.sent.consignment}</span></legend
      >
      <div class="mt-1 flex flex-wrap items-end gap-3">
        {#each kinds as kind (kind)}
          <label class="text-soft"
            >{DISPOSITIONS[kind]}<input
              class="field mt-0.5 block h-7 w-20 text-right text-ink"
              type="number"
              min="0"
              max={awaited(line)}
              aria-label="{DISPOSITIONS[kind]}: {line.sent.item}"
              value={its[kind] ?? ''}
              oninput={(event) => (its[kind] = event.currentTarget.valueAsNumber || 0)}
            /></label
          >
        {/each}
      </div>
      {#if line.sent.tracked}
        <label class="mt-1 block text-soft"
          >Lot or number<input
            class="field mt-0.5 block h-7 w-48 font-mono text-xs text-ink"
            list="lots-{line.id}"
            bind:value={lots[line.id]}
          /></label
        >
        <datalist id="lots-{line.id}"
          >{#each line.sent.lots as lot (lot)}<option value={lot}></option>{/each}</datalist
        >
        {#if wasNotSent(line)}
          <label class="mt-1 block text-amber"
            >That one was not sent with this order. It can go to quarantine; what is known of it?<input
              class="field mt-0.5 block h-7 w-full text-ink"
              maxlength="200"
              required
              bind:value={notes[line.id]}
            /></label
          >
        {/if}
      {/if}
    </fieldset>
  {/each}
  {#if tooMany}
    <p class="text-madder" role="alert">
      Only {awaited(tooMany)} of {tooMany.sent.item} are to come.
    </p>
  {:else if missing > 0}
    <label class="flex items-center gap-2"
      ><input type="checkbox" bind:checked={restComes} /> the other {plural(missing, 'unit')} still {missing ===
      1
        ? 'comes'
        : 'come'}</label
    >
  {/if}
  <Button main type="submit" disabled={!ready} key="e">Book in {plural(units, 'unit')}</Button>
</form>
