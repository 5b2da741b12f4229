<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { upload, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import FileButton from '../../parts/FileButton.svelte';
  import { count, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    open: boolean;
    supplier: Schemas['SupplierOffersSupplier'];
  }
  let { open = $bindable(), supplier }: Props = $props();

  type Seen = Schemas['SuppliersSeen'];
  const KINDS: Record<Seen['changes'][number]['kind'], string> = {
    NEW: '+ new',
    CHANGED: '≠ changed',
    GONE: '− no longer offered'
  };
  /** As many changes as one looks through. */
  const SHOWN = 200;
  const client = useQueryClient();
  let chosen = $state<File>();
  let seen = $state<Seen>();
  let problem = $state('');
  const path = $derived(`/api/suppliers/${supplier.id}/offers`);

  async function attempt(what: () => Promise<void>) {
    problem = '';
    try {
      await what();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
  const look = (file: File) =>
    attempt(async () => {
      seen = undefined;
      chosen = file;
      seen = await upload<Seen>(`${path}/check`, file);
    });
  const take = () =>
    attempt(async () => {
      if (!chosen) return;
      const taken = await upload<Schemas['SupplierOffersTaken']>(path, chosen);
      open = false;
      toasts.say(`${plural(taken.changed, 'offer')} changed`);
      await client.invalidateQueries();
    });
</script>

<Dialog bind:open title="What {supplier.name} offers" wide>
  <div class="flex items-center gap-3">
    <FileButton
      text="Choose a file…"
      label="The supplier’s file"
      accept=".csv,.xlsx,text/csv"
      onfile={(file) => void look(file)}
    />
    <a class="ms-auto text-verdigris hover:underline" href="/api/suppliers/offers-template" download
      >A file to fill in</a
    >
  </div>
  <p class="text-soft">
    CSV or XLSX with the columns code, title, gtin, price and available; prices in {supplier.currency} without tax.
    The file says all that is offered: what is no longer in it counts as none.
  </p>
  {#if seen}
    <p>
      <b class="font-[650]">{plural(seen.rows, 'row')}</b>, {plural(seen.changes.length, 'offer')} would change{seen
        .refused.length
        ? `; ${plural(seen.refused.length, 'row')} can’t be read and would be left out`
        : ''}.
    </p>
    <div class="max-h-72 overflow-y-auto border-t border-line">
      <table class="w-full">
        <tbody>
          {#each seen.refused as r (r.row)}
            <tr class="border-b border-line text-madder"
              ><td class="py-1">✕ row {r.row}</td><td colspan="4">{r.why}</td></tr
            >
          {/each}
          {#each seen.changes.slice(0, SHOWN) as change (change.code)}
            <tr class="border-b border-line">
              <td class="py-1 pe-2 whitespace-nowrap text-soft">{KINDS[change.kind]}</td>
              <td class="pe-2 font-mono text-xs">{change.code}</td>
              <td class="pe-2">{change.title}</td>
              <td class="pe-2 text-right whitespace-nowrap"
                >{change.priceBefore != null && change.priceBefore !== change.price
                  ? `${money(change.priceBefore, supplier.currency)} → `
                  : ''}{money(change.price, supplier.currency)}</td
              >
              <td class="text-right whitespace-nowrap"
                >{change.availableBefore != null && change.availableBefore !== change.available
                  ? `${count(change.availableBefore)} → `
                  : ''}{count(change.available)}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
      {#if seen.changes.length > SHOWN}<p class="py-1 text-soft">
          and {count(seen.changes.length - SHOWN)} more
        </p>{/if}
    </div>
  {/if}
  <p class="min-h-5 text-madder" role="alert">{problem}</p>
  <Button main disabled={!seen || seen.changes.length === 0} onclick={() => void take()}>Take it</Button>
</Dialog>
