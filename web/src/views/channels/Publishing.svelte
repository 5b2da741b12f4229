<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import Search from '../../parts/Search.svelte';
  import { param, setParams } from '../../state/address';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import type { Channel } from './health';
  import PriceChanges from './PriceChanges.svelte';
  import PriceRule from './PriceRule.svelte';
  import { percent, type Rule } from './prices';
  import MoneyField from '../../parts/MoneyField.svelte';

  let { channel: c }: { channel: Channel } = $props();

  type Line = Schemas['OffersLine'];
  const WORDS: Record<Line['verdict'], string> = {
    NEW: '',
    OFFERED: 'offered there',
    NOT_TO_BE_HAD: 'none to be had',
    NO_COST: 'cost not said',
    NO_PRICE: 'no price'
  };
  /** As many items as one look shows. */
  const MOST = 500;
  const path = $derived({ channel: c.id });
  const search = $derived(param('search'));
  const supplier = $derived(Number(param('from')) || null);
  const suppliers = createQuery(() => ({
    queryKey: ['suppliers'],
    queryFn: () => get(api.GET('/api/suppliers'))
  }));
  const published = createQuery(() => ({
    queryKey: ['channels', 'publishing', c.id],
    queryFn: () => get(api.GET('/api/channels/{channel}/publishing', { params: { path } }))
  }));
  let typed = $state<Rule>();
  const rule = $derived(typed ?? published.data?.rule);
  const lines = createQuery(() => ({
    queryKey: ['channels', 'publishing', c.id, 'preview', rule, search, supplier],
    enabled: rule !== undefined,
    queryFn: () =>
      get(
        api.POST('/api/channels/{channel}/publishing/preview', {
          params: { path },
          body: { rule: rule!, search, supplier }
        })
      )
  }));
  let all = $state(false);
  let drafts = $state(untrack(() => true));
  let selected = $state<string[]>([]);
  const titles = $state<Record<string, string>>({});
  const rows = $derived((lines.data ?? []).filter((l) => all || l.verdict === 'NEW'));
  const toOffer = $derived(
    rows.filter((l) => selected.includes(l.sku) && (l.verdict === 'NEW' || l.verdict === 'NOT_TO_BE_HAD'))
  );
  const run = useDoing();

  async function offer() {
    const told = get(
      api.POST('/api/channels/{channel}/publishing', {
        params: { path },
        body: {
          lines: toOffer.map((l) => ({
            offer: l.offer,
            sku: l.sku,
            title: titles[l.sku] ?? l.title,
            price: l.price!,
            published: !drafts
          }))
        }
      })
    ).then((all) => {
      const bad = all.find((t) => t.problem);
      if (bad) throw new Error(`${bad.sku} was not taken: ${bad.problem}`);
    });
    await run(told, `${plural(toOffer.length, 'item')} offered${drafts ? ' as drafts' : ''}`);
    selected = [];
  }
  const setCost = (l: Line, cost: number | null) => {
    if (cost === null) return;
    void run(
      get(
        api.PUT('/api/channels/{channel}/publishing/cost', {
          params: { path },
          body: { sku: l.sku, cost }
        })
      ),
      `${l.sku} costs ${money(cost, session.base)}`
    );
  };
</script>

{#if published.data}<PriceChanges channel={c} changes={published.data.changes} />{/if}
{#if rule}
  <PriceRule
    channel={c}
    {rule}
    kept={typed === undefined || JSON.stringify(typed) === JSON.stringify(published.data?.rule)}
    ontype={(now) => (typed = now)}
  />
{/if}
<div class="my-2 flex items-center gap-3">
  <select
    class="field h-7 py-0 ps-2 pe-7"
    aria-label="What is offered"
    value={supplier ?? ''}
    onchange={(event) => {
      selected = [];
      setParams({ from: event.currentTarget.value });
    }}
  >
    <option value="">our items</option>
    {#each suppliers.data ?? [] as s (s.id)}<option value={s.id}>offers of {s.name}</option>{/each}
  </select>
  <Search
    label="Find items"
    placeholder={supplier ? 'Name, supplier’s code or GTIN' : 'Name, SKU or category'}
  />
  <label class="flex items-center gap-1.5"
    ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={all} /> also what can’t be offered
    now</label
  >
  {#if session.mayChange}
    <span class="ms-auto flex items-center gap-3">
      <label class="flex items-center gap-1.5"
        ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={drafts} /> as drafts</label
      >
      <Button small main disabled={toOffer.length === 0} onclick={() => void offer()}
        >{toOffer.length ? `Offer ${plural(toOffer.length, 'item')}` : 'Offer'}</Button
      >
    </span>
  {/if}
</div>
{#if lines.isError}<p class="text-madder" role="alert">{lines.error.message}</p>{/if}
<table class="w-full table-fixed">
  <thead
    ><tr
      ><th class="w-7 py-1"
        ><input
          type="checkbox"
          class="size-3.5 rounded-sm border-faint"
          aria-label="Select all"
          checked={rows.length > 0 && selected.length === rows.length}
          onchange={(event) => (selected = event.currentTarget.checked ? rows.map((l) => l.sku) : [])}
        /></th
      ><th class="w-36 pe-2">Item</th><th class="pe-2">Title there</th><th class="w-20 pe-2 text-right"
        >Available</th
      ><th class="w-24 pe-2 text-right">Cost</th><th class="w-24 pe-2 text-right">Price</th><th
        class="w-36 pe-2 text-right">Margin</th
      ><th class="w-32"></th></tr
    ></thead
  >
  <tbody>
    {#each rows as l (l.sku)}
      <tr class={['h-[32px] border-t border-line', selected.includes(l.sku) && 'bg-verdigris-wash']}>
        <td
          ><input
            type="checkbox"
            class="size-3.5 rounded-sm border-faint"
            aria-label="Select {l.title}"
            value={l.sku}
            bind:group={selected}
          /></td
        >
        <td class="truncate pe-2 font-mono text-xs">{l.sku}</td>
        <td class="pe-2"
          ><input
            class="field h-6 w-full border-transparent px-1 hover:border-line"
            aria-label="Title of {l.sku}"
            value={titles[l.sku] ?? l.title}
            onchange={(event) => (titles[l.sku] = event.currentTarget.value)}
          /></td
        >
        <td class="pe-2 text-right">{count(l.available)}</td>
        <td class="pe-2 text-right"
          ><MoneyField
            class="field h-6 w-20 border-transparent px-1 text-right hover:border-line"
            aria-label="Cost of {l.sku}"
            currency={session.base}
            disabled={!session.mayChange || l.offer != null || c.currency !== published.data?.baseCurrency}
            value={l.cost ?? null}
            placeholder="?"
            ontype={(minor) => setCost(l, minor)}
          /></td
        >
        <td class="pe-2 text-right font-[650]">{l.price == null ? '' : money(l.price, c.currency)}</td>
        <td class="pe-2 text-right"
          >{#if l.margin != null}{#if l.raised}<span
                class="text-amber"
                title="Dearer than cost and markup alone: the floor holds it">▲</span
              >
            {/if}{money(l.margin, c.currency)}
            <span class="text-soft">{percent(l.marginHundredths ?? 0)}</span>{/if}</td
        >
        <td class="truncate text-soft" title={l.why}>{WORDS[l.verdict]}</td>
      </tr>
    {:else}
      <tr
        ><td colspan="8" class="py-2 text-soft"
          >{lines.isPending
            ? 'Reading…'
            : 'Nothing more can be offered there now. “Also what can’t be offered” shows the rest, and why.'}</td
        ></tr
      >
    {/each}
  </tbody>
</table>
{#if lines.data?.length === MOST}
  <p class="py-2 text-soft">Of the first {MOST} items by SKU; find others by name, SKU or category.</p>
{/if}
