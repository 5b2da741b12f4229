<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../api/client';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';

  interface Props {
    open: boolean;
    channelId: number;
    wording: string;
  }
  let { open = $bindable(), channelId, wording }: Props = $props();

  let level = $state<'STANDARD' | 'EXPRESS'>('STANDARD');
  let problem = $state('');
  const client = useQueryClient();

  async function learn(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(
        api.POST('/api/channels/{id}/wordings', {
          params: { path: { id: channelId } },
          body: { how: 'EXACT', wording, level }
        })
      );
      open = false;
      toasts.say(`“${wording}” means ${level.toLowerCase()} from now on; its orders go on`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="What does “{wording}” mean?">
  <form onsubmit={learn} class="space-y-3">
    <label class="flex gap-2"
      ><input
        type="radio"
        name="level"
        value="STANDARD"
        bind:group={level}
        class="accent-verdigris"
        data-autofocus
      /> standard service</label
    >
    <label class="flex gap-2"
      ><input type="radio" name="level" value="EXPRESS" bind:group={level} class="accent-verdigris" /> express service</label
    >
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Remember it</Button>
  </form>
</Dialog>
