<script lang="ts">
  import Button from '../../parts/Button.svelte';
  import { toasts } from '../../state/toasts.svelte';

  let { secret, what }: { secret: string; what: string } = $props();

  async function copy() {
    await navigator.clipboard.writeText(secret);
    toasts.say('Copied');
  }
</script>

<p>{what} It is shown this once and kept nowhere it could be read again.</p>
<div class="flex items-center gap-2">
  <code class="min-w-0 flex-1 rounded-sm bg-sunk px-2 py-1.5 font-mono text-xs break-all">{secret}</code>
  <Button small onclick={() => void copy()}>Copy</Button>
</div>
