<!-- When the orders of one channel are routed. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import { plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  let { channel, name }: { channel: string; name: string } = $props();

  const CHOICES = [5, 10, 15, 30, 60, 120, 240];
  const run = useDoing();
  const times = createQuery(() => ({
    queryKey: ['routing', 'times'],
    queryFn: () => get(api.GET('/api/routing/times'))
  }));
  const now = $derived(times.data?.find((t) => t.channel === channel));
  const set = (minutes: number | null) =>
    get(api.PUT('/api/routing/times/{channel}', { params: { path: { channel } }, body: { minutes } }));
  const said = (minutes: number | null) =>
    minutes
      ? `Orders of ${name} are routed together every ${plural(minutes, 'minute')}`
      : `Orders of ${name} are routed each at once`;

  function choose(value: string) {
    const before = now?.minutes ?? null;
    const minutes = Number(value) || null;
    void run(set(minutes), said(minutes), () => void run(set(before), said(before)));
  }
</script>

<label class="text-soft"
  >Its orders are routed<select
    class="field mt-1 block h-8 w-72 py-0 text-ink"
    disabled={!session.mayChange || !now}
    value={String(now?.minutes ?? '')}
    onchange={(e) => choose(e.currentTarget.value)}
    ><option value="">each at once, when it is approved</option>
    {#each now?.minutes && !CHOICES.includes(now.minutes) ? [now.minutes, ...CHOICES] : CHOICES as minutes (minutes)}
      <option value={String(minutes)}>together, every {minutes} minutes</option>
    {/each}</select
  ></label
>
<p class="mt-2 max-w-80 text-soft">
  Together, scarce stock goes where it costs least in all, not to whoever came first; a higher priority class
  always comes first. {now?.waiting ? `${plural(now.waiting, 'order waits', 'orders wait')} now.` : ''}
</p>
