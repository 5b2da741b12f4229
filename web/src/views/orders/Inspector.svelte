<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { replace } from 'svelte-spa-router';
  import { tinykeys } from 'tinykeys';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { word } from '../../parts/format';
  import { money } from '../../parts/money';
  import SnagActions from '../../parts/SnagActions.svelte';
  import { CAUSES } from '../../parts/snags';
  import Track from '../../parts/Track.svelte';
  import { addressWith, setParams } from '../../state/address';
  import { free } from '../../state/keys';
  import { session } from '../../state/session.svelte';
  import { useDoing } from '../../state/doing';
  import AskDialog from './AskDialog.svelte';
  import Customer from './Customer.svelte';
  import Lines from './Lines.svelte';
  import OrderReturns from './OrderReturns.svelte';
  import Parcels from './Parcels.svelte';
  import Refunds from './Refunds.svelte';
  import Timeline from './Timeline.svelte';
  import Waits from './Waits.svelte';
  import Whose from './Whose.svelte';
  import WhyHere from './WhyHere.svelte';
  import { trackOf } from './worklist';

  interface Props {
    id: number;
    wide: boolean;
    tab: string;
  }
  let { id, wide, tab }: Props = $props();

  let asking = $state<'hold' | 'note' | 'cancel'>();
  let width = $state(416);
  let first = $state<SnagActions>();
  const run = useDoing();
  const order = createQuery(() => ({
    queryKey: ['order', id],
    queryFn: () => get(api.GET('/api/orders/{id}', { params: { path: { id } } }))
  }));
  const sheet = $derived(order.data);
  const row = $derived(sheet?.order);
  const snags = $derived((sheet?.snags ?? []).map((s) => ({ ...s, orderId: id })));
  const held = $derived(row?.marks.filter((m) => m.kind === 'HELD') ?? []);
  /** What a channel's depot packs only the channel can stop. */
  const ours = $derived(!sheet?.fulfilledByChannel);
  const unpaid = $derived(row?.marks.some((m) => m.kind === 'UNPAID'));
  const parcels = $derived(sheet?.consignments.flatMap((c) => c.parcels).length ?? 0);
  const tabs = $derived([
    ['lines', `Lines ${sheet?.lines.length ?? ''}`],
    ['parcels', `Parcels ${parcels || ''}`],
    ['why', 'Why here'],
    ['timeline', `Timeline ${sheet?.timeline.length ?? ''}`]
  ]);

  const movable = $derived(
    session.mayChange && !!sheet?.consignments.some((c) => c.state === 'PLANNED' || c.state === 'RELEASED')
  );

  const path = $derived({ params: { path: { id } } });
  const approve = () => run(get(api.POST('/api/orders/{id}/approve', path)), 'Approved; it goes on');
  const release = () =>
    run(get(api.POST('/api/orders/{id}/release-hold', path)), 'Hold released; it goes on');

  const ASK = {
    hold: { title: 'Why hold it?', button: 'Hold', longest: 200 },
    cancel: { title: 'Why cancel it? The channel is told.', button: 'Cancel the order', longest: 200 },
    note: { title: 'A note for the timeline', button: 'Add', longest: 1000 }
  };

  async function answered(text: string) {
    const what = asking;
    asking = undefined;
    if (what === 'hold') {
      await run(
        get(api.POST('/api/orders/{id}/hold', { ...path, body: { reason: text } })),
        'Held',
        () => void release()
      );
    } else if (what === 'cancel') {
      await run(
        get(api.POST('/api/orders/{id}/cancel', { ...path, body: { reason: text } })),
        'Cancelled; the channel is told'
      );
    } else {
      await run(get(api.POST('/api/orders/{id}/notes', { ...path, body: { text } })), 'Note added');
    }
  }

  function suggested() {
    if (!session.mayChange || !sheet) return;
    if (first) first.act();
    else if (held.length) void release();
    else if (unpaid) void approve();
    else setParams({ tab: 'why' });
  }

  $effect(() =>
    tinykeys(window, {
      e: (event) => {
        if (free(event)) suggested();
      },
      Enter: (event) => {
        if (
          free(event) &&
          document.activeElement?.tagName !== 'BUTTON' &&
          document.activeElement?.tagName !== 'A'
        )
          setParams({ wide: wide ? '' : '1' });
      },
      Escape: (event) => {
        if (!free(event)) return;
        if (wide) setParams({ wide: '' });
        else void replace(addressWith({ tab: '', wide: '' }, '/orders'));
      }
    })
  );
</script>

<aside
  class={['flex min-h-0 flex-col border-l border-line bg-sheet', wide ? 'flex-1' : 'w-[416px] flex-none']}
  aria-label="Order {row?.number ?? ''}"
>
  {#if sheet && row}
    <header class="px-4 pt-3.5 pb-2">
      <div class="flex items-baseline gap-2.5">
        <h2 class="flex-none font-mono text-base">{row.number}</h2>
        <b class="truncate font-[650]" dir="auto">{row.buyer}</b>
        <span class="truncate text-soft"
          >{row.country}
          {row.postcode} · {word(sheet.payment)}
          {money(row.total, row.currency)}</span
        >
      </div>
      <div class="-mx-1 mt-2.5" bind:clientWidth={width}>
        <Track track={trackOf(row)} big width={Math.min(width, 720)} />
      </div>
      {#each held as mark (mark.text)}
        <p class="mt-1 text-madder"><b class="font-[650]">Held</b> {mark.text}</p>
      {/each}
      {#each snags as snag, i (snag.id)}
        <div class="mt-1.5 flex items-center gap-2">
          <p class="min-w-0 flex-1 text-madder">
            <b class="font-[650]">{CAUSES[snag.cause].one}</b>
            <span class="text-ink">{snag.title}: {snag.detail}</span>
          </p>
          {#if session.mayChange}
            {#if i === 0}<SnagActions bind:this={first} {snag} main key="e" />{:else}<SnagActions
                {snag}
              />{/if}
          {/if}
        </div>
      {/each}
    </header>
    <nav class="flex gap-4.5 border-b border-line px-4" aria-label="Parts of the order">
      {#each tabs as [key, name] (key)}
        <button
          class={[
            'py-1.5',
            tab === key ? 'border-b-2 border-verdigris font-[650]' : 'text-soft hover:text-ink'
          ]}
          aria-current={tab === key ? 'true' : undefined}
          onclick={() => setParams({ tab: key ?? '' })}>{name}</button
        >
      {/each}
    </nav>
    <div class="min-h-0 flex-1 overflow-y-auto px-4 py-3">
      {#if tab === 'parcels'}<Parcels {sheet} />
      {:else if tab === 'why'}<WhyHere {id} {movable} />
      {:else if tab === 'timeline'}<Timeline entries={sheet.timeline} />
      {:else}<Lines {sheet} /><Waits {sheet} /><OrderReturns {sheet} /><Refunds order={row} /><Whose
          {sheet}
        />{#if sheet.email}<Customer email={sheet.email} />{/if}{/if}
    </div>
    <footer class="flex gap-2 border-t border-line px-4 py-2.5">
      {#if session.mayChange}
        {#if held.length}<Button main={!snags.length} onclick={release}>Release hold</Button>
        {:else if unpaid && !snags.length}<Button main onclick={approve} key="e">Approve</Button>{/if}
        {#if !held.length && ours && ['RECEIVED', 'APPROVED', 'ROUTED', 'RELEASED', 'PACKED'].includes(row.stage)}
          <Button onclick={() => (asking = 'hold')}>Hold</Button>
        {/if}
        <Button onclick={() => (asking = 'note')}>Note</Button>
        {#if ours && ['RECEIVED', 'APPROVED', 'ROUTED', 'RELEASED', 'PACKED'].includes(row.stage)}
          <Button onclick={() => (asking = 'cancel')}>Cancel</Button>
        {/if}
      {/if}
      <span class="ms-auto"
        ><Button onclick={() => setParams({ wide: wide ? '' : '1' })} key={wide ? 'Esc' : '↵'}
          >{wide ? 'Beside the list' : 'Open'}</Button
        ></span
      >
    </footer>
  {:else if order.isError}
    <p class="p-4 text-madder">{order.error.message}</p>
  {:else}
    <p class="p-4 text-soft">Reading…</p>
  {/if}
</aside>
{#if asking}
  <AskDialog {...ASK[asking]} onanswer={answered} onclose={() => (asking = undefined)} />
{/if}
