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
  let channel = $state('');
  let reason = $state('');

  async function pause(event: SubmitEvent) {
    event.preventDefault();
    const name = channels.data?.find((c) => c.code === channel)?.name;
    await run(
      get(api.POST('/api/routing/pauses', { body: { channel: channel || null, reason } })),
      name ? `Orders of ${name} are not routed until you say so` : 'No order is routed until you say so'
    );
    open = false;
  }
</script>

<Dialog bind:open title="Stop routing">
  <form class="space-y-3" onsubmit={pause}>
    <label class="block text-soft"
      >Orders of<select class="field mt-1 block w-full text-ink" bind:value={channel} data-autofocus
        ><option value="">all channels</option>{#each channels.data ?? [] as c (c.code)}<option value={c.code}
            >{c.name}</option
          >{/each}</select
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
      They come in and are approved meanwhile. What is routed already goes on to be packed and sent.
    </p>
    <Button main type="submit">Stop routing</Button>
  </form>
</Dialog>
