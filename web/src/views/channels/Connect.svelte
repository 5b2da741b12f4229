<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { useDoing } from '../../state/doing';
  import ConnectAccess from './ConnectAccess.svelte';
  import ConnectDefaults from './ConnectDefaults.svelte';
  import ConnectOrders from './ConnectOrders.svelte';
  import ConnectPreview from './ConnectPreview.svelte';
  import type { Channel } from './health';
  import MatchTable from './MatchTable.svelte';

  let { channel: c }: { channel: Channel } = $props();

  const STEPS = [
    ['CREDENTIALS', 'Who we are'],
    ['ORDERS', 'Which orders'],
    ['DEFAULTS', 'How they are taken'],
    ['LISTINGS', 'Match listings'],
    ['PREVIEW', 'See, then connect']
  ] as const;
  type Step = (typeof STEPS)[number][0];
  const run = useDoing();
  const params = $derived({ path: { id: c.id } });
  const kinds = createQuery(() => ({
    queryKey: ['connecting', 'kinds'],
    queryFn: () => get(api.GET('/api/connecting/kinds'))
  }));
  const profile = $derived(kinds.data?.find((k) => k.kind === c.kind)?.profile);
  const steps = $derived(
    profile && c.kind !== 'SPREADSHEET' ? STEPS : STEPS.filter(([s]) => s === 'DEFAULTS')
  );
  const at = $derived(steps.findIndex(([s]) => s === c.setup));

  const goTo = (step: Step) => run(get(api.PUT('/api/connecting/{id}/step', { params, body: { step } })), '');
</script>

<div class="flex min-h-0 flex-1">
  <ol class="w-48 flex-none border-r border-line py-2" aria-label="Steps of connecting">
    {#each steps as [step, name], i (step)}
      <li>
        <button
          class={[
            'flex w-full items-baseline gap-2 px-4 py-1.5 text-left',
            i === at ? 'bg-verdigris-wash font-[650]' : i < at ? 'hover:bg-sunk' : 'text-soft'
          ]}
          disabled={i > at}
          aria-current={i === at ? 'step' : undefined}
          onclick={() => void goTo(step)}
          ><span aria-hidden="true" class="w-4">{i < at ? '✓' : i + 1}</span>{name}</button
        >
      </li>
    {/each}
    <li class="px-4 pt-3 text-xs text-soft">
      It can be left at any step. Until it is connected nothing is fetched into our books, and nothing is ever
      written to the channel before you say so.
    </li>
  </ol>
  <div class="min-h-0 flex-1 overflow-y-auto px-5 py-3">
    {#if c.setup === 'CREDENTIALS' && profile}<ConnectAccess channel={c} {profile} />
    {:else if c.setup === 'ORDERS' && profile}<ConnectOrders channel={c} {profile} />
    {:else if c.setup === 'DEFAULTS'}<ConnectDefaults channel={c} />
    {:else if c.setup === 'LISTINGS'}
      <div class="mb-2 flex items-center gap-3">
        <p class="text-soft">
          What has no match yet can wait: its orders are held until somebody says which item it is.
        </p>
        <span class="ms-auto"
          ><Button
            main
            onclick={() => void run(get(api.PUT('/api/connecting/{id}/listings', { params })), '')}
            >On to the preview</Button
          ></span
        >
      </div>
      <MatchTable channelId={c.id} />
    {:else if c.setup === 'PREVIEW'}
      <ConnectPreview
        channel={c}
        onconnect={() =>
          void run(
            get(api.POST('/api/connecting/{id}/finish', { params })),
            `${c.name} is connected and listens only`
          )}
      />
    {/if}
  </div>
</div>
