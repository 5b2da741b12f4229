<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { plural } from '../../parts/format';
  import type { Channel } from './health';

  interface Props {
    open: boolean;
    channel: Channel;
    /** with whether its buyers get our mails, too, and it is told of what left before */
    onspeak: (mails: boolean, afterwards: boolean) => void;
  }
  let { open = $bindable(), channel: c, onspeak }: Props = $props();

  let mails = $state(untrack(() => c.mailsSent));
  let afterwards = $state(false);
  const speaking = createQuery(() => ({
    queryKey: ['connecting', 'speaking', c.id],
    queryFn: () => get(api.GET('/api/connecting/{id}/speaking', { params: { path: { id: c.id } } }))
  }));
</script>

<Dialog bind:open title="Tell {c.name} what happens?">
  {#if speaking.data}
    <p>
      From now on it is told when its orders leave or are cancelled:
      {plural(speaking.data.openOrders, 'open order')} would be told of.
    </p>
    <label class="block"
      ><input type="checkbox" class="accent-verdigris" bind:checked={mails} /> Mail its buyers, too: what is sent,
      and what they wait for. Leave it off if the shop does.</label
    >
    {#if speaking.data.leftUntold}
      <label class="block"
        ><input type="checkbox" class="accent-verdigris" bind:checked={afterwards} /> Tell it, too, of the
        {plural(speaking.data.leftUntold, 'consignment')} that left while it was listening only</label
      >
    {/if}
    <p class="text-soft">Stock is a decision of its own: see “Stock feed”.</p>
  {:else}<p class="text-soft">Looking…</p>{/if}
  <Button
    main
    onclick={() => {
      open = false;
      onspeak(mails, afterwards);
    }}>Tell it from now on</Button
  >
</Dialog>
