<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { day, plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  interface Props {
    closure: Schemas['ClosuresClosure'];
    onopen: () => void;
  }
  let { closure: c, onopen }: Props = $props();

  const run = useDoing();
  const path = $derived({ params: { path: { id: c.id } } });
  const planned = createQuery(() => ({
    queryKey: ['network', 'closures', c.id, 'planned'],
    queryFn: () => get(api.GET('/api/network/closures/{id}/planned', path))
  }));
  const waiting = $derived(planned.data?.length ?? 0);
  const move = () =>
    run(
      get(api.POST('/api/network/closures/{id}/move', path)),
      `${plural(waiting, 'consignment')} taken back from ${c.nodeName} and routed anew`
    );
</script>

<li class="flex flex-wrap items-baseline gap-2 py-1">
  <b class="font-[600]">{c.nodeName}{c.laneName ? `, only ${c.laneName}` : ''}</b>
  <span>{day(c.first)}{c.last === c.first ? '' : ` to ${day(c.last)}`}: {c.reason}</span>
  <span class="text-soft">{c.by}</span>
  {#if waiting}<span class="text-amber"
      >▲ {plural(waiting, 'consignment is', 'consignments are')} planned to leave then</span
    >{/if}
  {#if session.mayChange}
    {#if waiting}<Button small onclick={() => void move()}>Route them anew</Button>{/if}
    <Button small onclick={onopen}>Open it then</Button>
  {/if}
</li>
