<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import TogetherDialog from './TogetherDialog.svelte';

  let { selected = $bindable() }: { selected: number[] } = $props();

  let reason = $state('');
  let routing = $state(false);
  let asking = $state<keyof typeof ASK>();
  const client = useQueryClient();
  const ASK = {
    HOLD: { hint: 'Why hold them?', go: 'Hold', field: 'Reason', needed: true },
    CANCEL: { hint: 'Why cancel them?', go: 'Cancel', field: 'Reason', needed: true },
    LIST: { hint: 'Which list? Empty: none', go: 'Put on it', field: 'List', needed: false }
  };
  const colleagues = createQuery(() => ({
    queryKey: ['orders', 'colleagues'],
    queryFn: () => get(api.GET('/api/orders/colleagues')),
    enabled: selected.length > 0
  }));
  const DONE = { APPROVE: 'approved', HOLD: 'held', RELEASE_HOLD: 'released from hold', CANCEL: 'cancelled' };

  const act = useDoing();
  async function assign(to: string) {
    const name = colleagues.data?.find((c) => c.username === to)?.name ?? to;
    const done = `${plural(selected.length, 'order')} for ${name}`;
    await act(get(api.POST('/api/orders/assign', { body: { orders: selected, to } })), done);
    selected = [];
  }
  async function put(list: string) {
    const done = `${plural(selected.length, 'order')} on ${list ? `the list ${list}` : 'no list'}`;
    const body = { orders: selected, list: list || null };
    await act(get(api.POST('/api/orders/put-on-list', { body })), done);
    selected = [];
    asking = undefined;
    reason = '';
  }
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
          if (asking === 'LIST') void put(reason.trim());
          else if (asking) void run(asking);
        }}
      >
        <!-- svelte-ignore a11y_autofocus (the person just asked for this field) -->
        <input
          class="field h-7 w-56"
          bind:value={reason}
          placeholder={ASK[asking].hint}
          aria-label={ASK[asking].field}
          required={ASK[asking].needed}
          maxlength="200"
          autofocus
        />
        <Button small main type="submit">{ASK[asking].go} {selected.length}</Button>
      </form>
    {:else}
      <Button small onclick={() => void run('APPROVE')}>Approve</Button>
      <Button small onclick={() => (routing = true)}>Route together…</Button>
      <Button small onclick={() => (asking = 'HOLD')}>Hold…</Button>
      <Button small onclick={() => void run('RELEASE_HOLD')}>Release hold</Button>
      <Button small onclick={() => (asking = 'CANCEL')}>Cancel…</Button>
      <select
        class="field h-7 py-0 ps-2 pe-7"
        aria-label="Give them to"
        value=""
        onchange={(e) => {
          if (e.currentTarget.value) void assign(e.currentTarget.value);
        }}
        ><option value="">Give to…</option>{#each colleagues.data ?? [] as c (c.username)}<option
            value={c.username}>{c.name}</option
          >{/each}</select
      >
      <Button small onclick={() => (asking = 'LIST')}>List…</Button>
    {/if}
    <button class="ms-auto text-soft hover:text-ink" onclick={() => (selected = [])}>select none</button>
  </div>
{/if}
{#if routing}<TogetherDialog bind:open={routing} orders={selected} ondone={() => (selected = [])} />{/if}
