<script lang="ts">
  import { untrack } from 'svelte';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { setParams } from '../../state/address';
  import { useDoing } from '../../state/doing';
  import type { Channel } from './health';
  import { patchChannel } from './patch';

  let { channel: c }: { channel: Channel } = $props();

  const run = useDoing();
  let name = $state(untrack(() => c.name));
  let removing = $state(false);

  function rename(event: SubmitEvent) {
    event.preventDefault();
    const before = c.name;
    void run(patchChannel(c, { name }), `It is called ${name} now; before, ${before}`);
  }
  async function remove() {
    removing = false;
    await run(
      get(api.DELETE('/api/connecting/{id}', { params: { path: { id: c.id } } })).then(() =>
        setParams({ c: '', tab: '' })
      ),
      `${c.name} is removed`
    );
  }
</script>

<form onsubmit={rename} class="flex items-end gap-2">
  <label class="block text-soft"
    >Name
    <input class="field mt-1 block w-64" bind:value={name} required maxlength="80" autocomplete="off" />
  </label>
  <Button type="submit" disabled={name.trim() === c.name}>Rename</Button>
</form>
<button class="mt-3 text-madder hover:underline" onclick={() => (removing = true)}
  >Remove this channel…</button
>
<Dialog bind:open={removing} title="Remove {c.name}?">
  <p>
    Its listings, matches and settings go with it. A channel by which orders came in can’t be removed: they
    stay on record. Pause it instead.
  </p>
  <Button main onclick={() => void remove()}>Remove {c.name}</Button>
</Dialog>
