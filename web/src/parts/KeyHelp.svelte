<script lang="ts">
  import { GENERAL_KEYS } from '../state/keys';
  import Dialog from './Dialog.svelte';
  import Kbd from './Kbd.svelte';

  let { open = $bindable() }: { open: boolean } = $props();
</script>

<Dialog bind:open title="Keys">
  <dl class="grid grid-cols-[7rem_1fr] gap-y-1.5">
    {#each GENERAL_KEYS as help (help.keys)}
      <dt><Kbd keys={help.keys} /></dt>
      <dd>{help.does}</dd>
    {/each}
  </dl>
</Dialog>
