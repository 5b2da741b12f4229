<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { useDoing } from '../../state/doing';

  interface Props {
    open: boolean;
  }
  let { open = $bindable() }: Props = $props();

  const run = useDoing();
  const channels = createQuery(() => ({
    queryKey: ['channels'],
    queryFn: () => get(api.GET('/api/channels'))
  }));
  const network = createQuery(() => ({
    queryKey: ['network', 2000, 'STANDARD'],
    queryFn: () => get(api.GET('/api/network', { params: { query: { grams: 2000, level: 'STANDARD' } } }))
  }));
  const nodes = $derived((network.data?.nodes ?? []).filter((n) => n.leaves));
  /** Empty: all orders; else a channel or a node by its code. */
  let what = $state('');
  let reason = $state('');

  async function pause(event: SubmitEvent) {
    event.preventDefault();
    const channel = channels.data?.find((c) => `channel ${c.code}` === what);
    const node = nodes.find((n) => `node ${n.code}` === what);
    const body = { channel: channel?.code ?? null, node: node?.code ?? null, reason };
    const stopped = channel
      ? `Orders of ${channel.name} are not routed`
      : node
        ? `Nothing new is routed to ${node.name}`
        : 'No order is routed';
    await run(get(api.POST('/api/routing/pauses', { body })), `${stopped} until you say so`);
    open = false;
  }
</script>

<Dialog bind:open title="Stop routing">
  <form class="space-y-3" onsubmit={pause}>
    <label class="block text-soft"
      >What<select class="field mt-1 block w-full text-ink" bind:value={what} data-autofocus
        ><option value="">all orders</option>
        <optgroup label="Orders of a channel"
          >{#each channels.data ?? [] as c (c.code)}<option value="channel {c.code}">of {c.name}</option
            >{/each}</optgroup
        >
        <optgroup label="To a node"
          >{#each nodes as n (n.code)}<option value="node {n.code}">to {n.name}</option>{/each}</optgroup
        ></select
      ></label
    >
    <label class="block text-soft"
      >Why<input
        class="field mt-1 block w-full text-ink"
        maxlength="200"
        required
        bind:value={reason}
      /></label
    >
    <p class="text-soft">
      {what.startsWith('node')
        ? 'Orders go to other nodes meanwhile; what only this one has waits.'
        : 'They come in and are approved meanwhile.'} What is routed already goes on to be packed and sent.
    </p>
    <Button main type="submit">Stop routing</Button>
  </form>
</Dialog>
