<!-- What is agreed with an order's customer, for this order and all others. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  let { email }: { email: string } = $props();

  const run = useDoing();
  const query = createQuery(() => ({
    queryKey: ['customers', email],
    queryFn: () => get(api.GET('/api/customers', { params: { query: { email } } }))
  }));
  const groups = createQuery(() => ({
    queryKey: ['customers', 'groups'],
    queryFn: () => get(api.GET('/api/customers/groups'))
  }));
  const c = $derived(query.data);

  function set(now: Partial<Schemas['CustomersCustomer']>) {
    if (!c) return;
    const before = { ...c };
    const put = (body: Schemas['CustomersCustomer']) => get(api.PUT('/api/customers', { body }));
    void run(put({ ...c, ...now }), 'Kept', () => void run(put(before), 'As it was'));
  }
</script>

{#if c && (session.mayChange || c.group || c.asOrdered)}
  <section class="mt-4 border-t border-line pt-2" aria-label="Customer">
    <h3 class="font-[650]">Customer</h3>
    {#if session.mayChange}
      <p class="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1 text-soft">
        <label
          >in the group <input
            class="field h-7 w-32 text-ink"
            list="customer-groups"
            maxlength="40"
            placeholder="none"
            value={c.group}
            onchange={(e) => set({ group: e.currentTarget.value.trim() })}
          /></label
        >
        <datalist id="customer-groups"
          >{#each groups.data ?? [] as g (g)}<option value={g}></option>{/each}</datalist
        >
        <label
          ><input
            class="me-1 size-3.5 rounded-sm border-faint"
            type="checkbox"
            checked={c.asOrdered}
            onchange={(e) => set({ asOrdered: e.currentTarget.checked })}
          />gets only what was ordered</label
        >
      </p>
    {:else}
      <p class="text-soft">
        {c.group ? `In the group ${c.group}` : 'In no group'}{c.asOrdered
          ? '; gets only what was ordered'
          : ''}
      </p>
    {/if}
  </section>
{/if}
