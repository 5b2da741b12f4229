<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { plural } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import TogetherDialog from './TogetherDialog.svelte';

  let { selected = $bindable() }: { selected: number[] } = $props();

  let reason = $state('');
  let routing = $state(false);
  let asking = $state<'HOLD' | 'CANCEL'>();
  const client = useQueryClient();
  const DONE = { APPROVE: 'approved', HOLD: 'held', RELEASE_HOLD: 'released from hold', CANCEL: 'cancelled' };

  async function run(action: Schemas['OrdersBulk']['action'], orders = selected, why = reason) {
    try {
      const result = await get(api.POST('/api/orders/bulk', { body: { action, orders, reason: why } }));
      const refused = new Set(result.refused.map((r) => r.order));
      const done = orders.filter((o) => !refused.has(o));
      const undo = action === 'HOLD' && done.length ? () => void run('RELEASE_HOLD', done, '') : undefined;
      toasts.say(
        `${plural(result.done, 'order')} ${DONE[action]}` +
          (result.refused.length ? `; ${result.refused.length} not: ${result.refused[0]?.why}` : ''),
        undo
      );
      selected = [];
      asking = undefined;
      reason = '';
      await client.invalidateQueries();
    } catch (error) {
      toasts.fail(error);
    }
  }
</script>

{#if selected.length && session.mayChange}
  <div class="flex items-center gap-2 border-t border-line bg-verdigris-wash px-4 py-1.5">
    <b class="font-[650]">{plural(selected.length, 'order')} selected</b>
    {#if asking}
      <form
        class="flex gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void run(asking ?? 'HOLD');
        }}
      >
        <!-- svelte-ignore a11y_autofocus (the person just asked for this field) -->
        <input
          class="field h-7 w-56"
          bind:value={reason}
          placeholder={asking === 'HOLD' ? 'Why hold them?' : 'Why cancel them?'}
          aria-label="Reason"
          required
          maxlength="200"
          autofocus
        />
        <Button small main type="submit">{asking === 'HOLD' ? 'Hold' : 'Cancel'} {selected.length}</Button>
      </form>
    {:else}
      <Button small onclick={() => void run('APPROVE')}>Approve</Button>
      <Button small onclick={() => (routing = true)}>Route together…</Button>
      <Button small onclick={() => (asking = 'HOLD')}>Hold…</Button>
      <Button small onclick={() => void run('RELEASE_HOLD')}>Release hold</Button>
      <Button small onclick={() => (asking = 'CANCEL')}>Cancel…</Button>
    {/if}
    <button class="ms-auto text-soft hover:text-ink" onclick={() => (selected = [])}>select none</button>
  </div>
{/if}
{#if routing}<TogetherDialog bind:open={routing} orders={selected} ondone={() => (selected = [])} />{/if}
