<!-- Channels whose orders are routed together, when they are next, and how many wait. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import { moment, plural } from '../../parts/format';

  const times = createQuery(() => ({
    queryKey: ['routing', 'times'],
    queryFn: () => get(api.GET('/api/routing/times')),
    refetchInterval: 60_000
  }));
  const waiting = $derived((times.data ?? []).filter((t) => t.minutes && t.nextAt));
</script>

{#each waiting as t (t.channel)}
  <p class="py-1">
    <b class="font-[600]">Orders of {t.name} are routed together</b>
    every {plural(t.minutes ?? 0, 'minute')}, next {moment(t.nextAt ?? '')}:
    <span class="text-soft"
      >{t.waiting ? plural(t.waiting, 'order waits', 'orders wait') : 'none waits yet'}</span
    >
  </p>
{/each}
