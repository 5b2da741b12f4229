<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, moment, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { inSight } from '../../parts/rows';
  import Search from '../../parts/Search.svelte';
  import { param, setParams } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import OfferFileDialog from './OfferFileDialog.svelte';
  import SendingDialog from './SendingDialog.svelte';
  import SupplierDialog from './SupplierDialog.svelte';

  const ROW = 30;
  const suppliers = createQuery(() => ({
    queryKey: ['suppliers'],
    queryFn: () => get(api.GET('/api/suppliers'))
  }));
  const all = $derived(suppliers.data ?? []);
  const supplier = $derived(all.find((s) => s.id === Number(param('s'))) ?? all[0]);
  const search = $derived(param('search'));
  const offers = createQuery(() => ({
    queryKey: ['suppliers', supplier?.id, 'offers', search],
    enabled: supplier !== undefined,
    queryFn: () =>
      get(
        api.GET('/api/suppliers/{id}/offers', {
          params: { path: { id: supplier!.id }, query: { search } }
        })
      )
  }));
  const rows = $derived(offers.data ?? []);
  let adding = $state(false);
  let reading = $state(false);
  let sending = $state(false);
  let top = $state(0);
  let height = $state(600);
  const part = $derived(inSight(top, height, ROW, rows.length));
</script>

<section class="flex min-h-0 min-w-0 flex-1 flex-col" aria-label="Suppliers">
  <header class="flex items-baseline gap-3 px-4 pt-3 pb-2">
    <h1>{supplier ? `What ${supplier.name} offers us` : 'Suppliers'}</h1>
    {#if supplier}<span class="text-soft"
        >{supplier.readAt ? `as of ${moment(supplier.readAt)}` : 'no file read yet'}, prices in {supplier.currency}
        without tax{supplier.nodeId
          ? supplier.fresh
            ? ', sent by itself'
            : ', said too long ago: counts as none'
          : ''}</span
      >{/if}
    {#if session.mayChange}
      <span class="ms-auto flex gap-2">
        {#if supplier}<Button main small onclick={() => (reading = true)}>Read a file of offers</Button>{/if}
        {#if supplier}<Button small onclick={() => (sending = true)}>Sends from…</Button>{/if}
        <Button small onclick={() => (adding = true)}>Add a supplier</Button>
      </span>
    {/if}
  </header>
  {#if all.length}
    <div class="flex items-center gap-2 px-4 pb-2">
      <select
        class="field h-7 py-0 ps-2 pe-7"
        aria-label="Supplier"
        value={supplier?.id}
        onchange={(event) => setParams({ s: event.currentTarget.value })}
        >{#each all as s (s.id)}<option value={s.id}>{s.name}</option>{/each}</select
      >
      <Search label="Find offers" placeholder="Code, name or GTIN" />
      <span class="text-soft"
        >{offers.isSuccess ? plural(rows.length, 'offer') : ''}{rows.length === 500
          ? ', the first by code'
          : ''}</span
      >
    </div>
  {/if}
  <div
    class="min-h-0 flex-1 overflow-auto border-t border-line"
    bind:clientHeight={height}
    onscroll={(event) => (top = event.currentTarget.scrollTop)}
  >
    {#if rows.length}
      <table class="w-full table-fixed">
        <thead class="sticky top-0 z-10 bg-paper shadow-[inset_0_-1px_var(--line)]"
          ><tr class="h-7"
            ><th class="w-40 px-4">Its code</th><th class="px-2">Item</th><th class="w-28 px-2 text-right"
              >Price</th
            ><th class="w-28 px-2 text-right">Available</th><th class="w-44 px-2">Our item</th><th
              class="w-36 px-4">Changed</th
            ></tr
          ></thead
        >
        <tbody>
          {#if part.above}<tr aria-hidden="true" style:height="{part.above}px"><td colspan="6"></td></tr>{/if}
          {#each rows.slice(part.from, part.to) as o (o.id)}
            <tr class="border-b border-line hover:bg-sunk" style:height="{ROW}px">
              <td class="truncate px-4 font-mono text-xs">{o.code}</td>
              <td class="truncate px-2" title={o.title}>{o.title}</td>
              <td class="px-2 text-right">{money(o.price, supplier?.currency ?? '')}</td>
              <td class={['px-2 text-right', o.available === 0 && 'text-soft']}
                >{o.available === 0 ? 'none' : count(o.available)}</td
              >
              <td class="truncate px-2"
                >{#if o.itemId}<a class="font-mono text-xs hover:underline" href="#/stock/{o.itemId}"
                    >{o.sku}</a
                  >{:else}<span class="text-soft">none yet</span>{/if}</td
              >
              <td class="px-4 text-soft">{moment(o.changedAt)}</td>
            </tr>
          {/each}
          {#if part.below}<tr aria-hidden="true" style:height="{part.below}px"><td colspan="6"></td></tr>{/if}
        </tbody>
      </table>
    {:else}
      <p class="p-4 text-soft">
        {#if suppliers.isPending || (supplier && offers.isPending)}Reading…
        {:else if offers.isError}{offers.error.message}
        {:else if !all.length}No supplier yet. Add one, and read the file in which it says what it offers and
          at what price; from its offers listings can be made on channels.
        {:else if search}None of its offers is called that.
        {:else}It offers nothing yet: read its file.{/if}
      </p>
    {/if}
  </div>
</section>
{#if adding}<SupplierDialog bind:open={adding} />{/if}
{#if sending && supplier}<SendingDialog bind:open={sending} {supplier} />{/if}
{#if reading && supplier}<OfferFileDialog bind:open={reading} {supplier} />{/if}
