<!-- Words by which an item is sorted; rules may ask for them. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  let { id, seen }: { id: number; seen: string } = $props();

  const run = useDoing();
  const path = $derived({ params: { path: { id } } });
  const query = createQuery(() => ({
    queryKey: ['stock', 'tags', id],
    queryFn: () => get(api.GET('/api/stock/items/{id}/tags', path))
  }));
  const tags = $derived(query.data ?? []);

  function set(text: string) {
    const before = tags;
    const put = (body: string[], header = {}) =>
      get(api.PUT('/api/stock/items/{id}/tags', { params: { path: { id }, header }, body }));
    const now = text
      .split(',')
      .map((t) => t.trim())
      .filter(Boolean);
    void run(put(now, { 'If-Match': seen }), 'Kept', () => void run(put(before), 'As it was'));
  }
</script>

{#if session.mayChange}
  <label class="mt-1.5 flex items-center gap-2 text-soft"
    >Tags <input
      class="field h-7 min-w-0 flex-1 text-ink"
      placeholder="none; commas between several"
      value={tags.join(', ')}
      onchange={(e) => set(e.currentTarget.value)}
    /></label
  >
{:else if tags.length}<p class="mt-1.5 text-soft">Tagged {tags.join(', ')}</p>{/if}
