<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, day, plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import EarmarkDialog from './EarmarkDialog.svelte';

  interface Props {
    id: number;
    sku: string;
    nodes: Schemas['StockGridNodeHead'][];
  }
  let { id, sku, nodes }: Props = $props();

  const query = createQuery(() => ({
    queryKey: ['stock', 'earmarks', id],
    queryFn: () => get(api.GET('/api/stock/items/{id}/earmarks', { params: { path: { id } } }))
  }));
  const run = useDoing();
  const KIND = {
    CHANNEL: 'channel',
    CUSTOMER: 'customer',
    CAMPAIGN: 'campaign',
    WAITING: 'those who wait for it',
    ORDER: 'an order, by a run'
  };
  const byPeople = (kind: string) => kind !== 'WAITING' && kind !== 'ORDER';
  let setting = $state(false);
</script>

<div class="mt-4 flex items-baseline">
  <h3 class="font-[650]">Set aside</h3>
  {#if session.mayChange}<span class="ms-auto"
      ><Button small onclick={() => (setting = true)}>Set some aside…</Button></span
    >{/if}
</div>
{#each query.data ?? [] as e (e.id)}
  <p class="flex items-baseline gap-2 border-t border-line py-1">
    <span class="min-w-0 flex-1"
      >{#if byPeople(e.kind)}{KIND[e.kind]} <b class="font-[650]">{e.who}</b>{:else}{KIND[e.kind]}{/if}, {e.node}
      <span class="text-soft"
        >· {e.until ? `until ${day(e.until)}` : byPeople(e.kind) ? 'until released' : 'until it is theirs'} · {e.notedBy}{e.note
          ? ` · ${e.note}`
          : ''}</span
      ></span
    >
    <span class="whitespace-nowrap" title="{plural(e.quantity - e.units, 'unit')} taken"
      ><b class="font-[650]">{count(e.units)}</b> of {count(e.quantity)}</span
    >
    {#if session.mayChange && byPeople(e.kind)}<Button
        small
        onclick={() =>
          void run(
            get(api.POST('/api/stock/earmarks/{id}/release', { params: { path: { id: e.id } } })),
            `${plural(e.units, 'unit')} free again`
          )}>Release</Button
      >{/if}
  </p>
{:else}
  <p class="text-soft">{query.isPending ? 'Reading…' : 'None of it is set aside for anybody.'}</p>
{/each}
{#if setting}<EarmarkDialog bind:open={setting} {id} {sku} {nodes} />{/if}
