<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { go } from '../../state/address';
  import { minor } from '../../parts/money';
  import MoneyField from '../../parts/MoneyField.svelte';
  import { session } from '../../state/session.svelte';

  let { open = $bindable() }: { open: boolean } = $props();

  const client = useQueryClient();
  const nodes = createQuery(() => ({
    queryKey: ['stock', 'nodes'],
    queryFn: () => get(api.GET('/api/stock/nodes'))
  }));
  let nodeId = $state<number>();
  let bins = $state('');
  let name = $state('');
  let blind = $state(true);
  let above = $state<number | null>(minor('100', session.base));
  let problem = $state('');
  const node = $derived(nodes.data?.find((n) => n.id === nodeId) ?? nodes.data?.[0]);
  const called = $derived(name.trim() || `${node?.name ?? ''}${bins.trim() ? `, bins ${bins.trim()}` : ''}`);

  async function begin(event: SubmitEvent) {
    event.preventDefault();
    if (!node) return;
    try {
      const made = await get(
        api.POST('/api/counts', {
          body: {
            nodeId: node.id,
            name: called,
            bins,
            category: '',
            blind,
            approveAbove: above
          }
        })
      );
      open = false;
      await client.invalidateQueries({ queryKey: ['stock', 'counts'] });
      go(`/stock/counts/${made.count.id}`);
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="A new count">
  <form class="space-y-3" onsubmit={begin}>
    <div class="flex gap-3">
      <label class="text-soft"
        >At<select class="field mt-1 block w-44" bind:value={nodeId} data-autofocus
          >{#each nodes.data ?? [] as n (n.id)}<option value={n.id}>{n.name}</option>{/each}</select
        ></label
      >
      <label class="text-soft"
        >Bins that begin with<input
          class="field mt-1 block w-32 font-mono"
          maxlength="20"
          placeholder="all"
          bind:value={bins}
        /></label
      >
    </div>
    <label class="block text-soft"
      >Name<input
        class="field mt-1 block w-full"
        maxlength="80"
        placeholder={called}
        bind:value={name}
      /></label
    >
    <label class="block"
      ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={blind} /> blind
      <span class="text-soft">— who counts is not told what is on record</span></label
    >
    <label class="block text-soft"
      >Differences worth more than this wait for a manager; empty: none do<MoneyField
        class="field mt-1 block w-28 text-right"
        currency={session.base}
        value={above}
        ontype={(minor) => (above = minor)}
      /></label
    >
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Make the list</Button>
  </form>
</Dialog>
