<!-- What is not routed now, and the way to go on. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { moment, plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  const pauses = createQuery(() => ({
    queryKey: ['routing', 'pauses'],
    queryFn: () => get(api.GET('/api/routing/pauses')),
    refetchInterval: 60_000
  }));
  const run = useDoing();
  const what = (p: Schemas['RoutingPausesPause']) =>
    p.channelName ? `Orders of ${p.channelName}` : 'Orders';
  const stopped = (p: Schemas['RoutingPausesPause']) =>
    p.nodeName ? `Nothing new is routed to ${p.nodeName}` : `${what(p)} are not routed`;

  const goOn = (p: Schemas['RoutingPausesPause']) =>
    run(
      get(api.DELETE('/api/routing/pauses/{id}', { params: { path: { id: p.id } } })),
      p.nodeName ? `Orders are routed to ${p.nodeName} again` : `${what(p)} are routed again`,
      () =>
        void run(
          get(
            api.POST('/api/routing/pauses', { body: { channel: p.channel, node: p.node, reason: p.reason } })
          ),
          ''
        )
    );
</script>

{#each pauses.data ?? [] as p (p.id)}
  <p class="flex flex-wrap items-baseline gap-x-2 py-1" role="status">
    <b class="font-[650] text-madder">▲ {stopped(p)}</b>
    <span
      >since {moment(p.at)}: {p.reason}.
      {#if !p.node}{p.waiting
          ? plural(p.waiting, 'order waits', 'orders wait')
          : 'None waits yet'}.{/if}</span
    >
    <span class="text-soft">{p.by}</span>
    {#if session.mayChange}<Button small onclick={() => void goOn(p)}>Route again</Button>{/if}
  </p>
{/each}
