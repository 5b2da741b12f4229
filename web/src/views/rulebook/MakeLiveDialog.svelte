<script lang="ts">
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { useDoing } from '../../state/doing';
  import DifferenceList from './DifferenceList.svelte';
  import type { Shown } from './model';

  interface Props {
    open: boolean;
    draft: NonNullable<Shown['draft']>;
  }
  let { open = $bindable(), draft }: Props = $props();

  const run = useDoing();
  let note = $state('');

  async function make(event: SubmitEvent) {
    event.preventDefault();
    await run(
      get(api.POST('/api/rulebook/draft/live', { body: { changes: draft.changes, note } })),
      `Edition ${draft.number} decides from now on`
    );
    open = false;
  }
</script>

<Dialog bind:open wide title="Edition {draft.number} decides from now on">
  <form class="space-y-3" onsubmit={make}>
    <DifferenceList differs={draft.differs} />
    <label class="block text-soft"
      >What it changes, and why<input
        class="field mt-1 block w-full text-ink"
        maxlength="400"
        required
        bind:value={note}
        data-autofocus
      /></label
    >
    <p class="text-soft">Orders that are routed already stay as they are. Any edition can be gone back to.</p>
    <Button main type="submit">Make it live</Button>
  </form>
</Dialog>
