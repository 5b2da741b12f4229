<script lang="ts">
  import Carriers from '../views/channels/Carriers.svelte';
  import Dialog from './Dialog.svelte';

  interface Props {
    open: boolean;
    channelId: number;
    title: string;
  }
  let { open = $bindable(), channelId, title }: Props = $props();
</script>

<Dialog bind:open {title} wide><Carriers {channelId} /></Dialog>
