<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { plural } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    open: boolean;
    id: number;
    sku: string;
    nodes: Schemas['StockGridNodeHead'][];
  }
  let { open = $bindable(), id, sku, nodes }: Props = $props();

  const client = useQueryClient();
  const channels = createQuery(() => ({
    queryKey: ['channels'],
    queryFn: () => get(api.GET('/api/channels'))
  }));
  let wish = $state(
    untrack(() => ({
      nodeId: nodes[0]?.id ?? 0,
      quantity: 1,
      kind: 'CHANNEL' as 'CHANNEL' | 'CUSTOMER' | 'CAMPAIGN',
      who: '',
      until: '',
      note: ''
    }))
  );
  let problem = $state('');
  const LABEL = {
    CHANNEL: 'Channel',
    CUSTOMER: 'The customer’s mail address',
    CAMPAIGN: 'The tag of the campaign’s orders'
  };

  async function save(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(
        api.POST('/api/stock/items/{id}/earmarks', {
          params: { path: { id } },
          body: { ...wish, until: wish.until || null }
        })
      );
      open = false;
      toasts.say(`${plural(wish.quantity, 'unit')} of ${sku} set aside`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="Set some of {sku} aside">
  <form class="space-y-3" onsubmit={save}>
    <fieldset class="flex gap-4">
      <legend class="sr-only">For whom</legend>
      <label
        ><input type="radio" value="CHANNEL" bind:group={wish.kind} class="accent-verdigris" /> a channel</label
      >
      <label
        ><input type="radio" value="CUSTOMER" bind:group={wish.kind} class="accent-verdigris" /> a customer</label
      >
      <label
        ><input type="radio" value="CAMPAIGN" bind:group={wish.kind} class="accent-verdigris" /> a campaign</label
      >
    </fieldset>
    <label class="block text-soft"
      >{LABEL[wish.kind]}{#if wish.kind === 'CHANNEL'}<select
          class="field mt-1 block w-full"
          required
          bind:value={wish.who}
          ><option value="" disabled></option>{#each channels.data ?? [] as c (c.id)}<option value={c.code}
              >{c.name}</option
            >{/each}</select
        >{:else}<input
          class="field mt-1 block w-full"
          required
          maxlength="190"
          bind:value={wish.who}
        />{/if}</label
    >
    <div class="flex gap-3">
      <label class="w-24 text-soft"
        >Units<input
          class="field mt-1 block w-full text-right"
          type="number"
          min="1"
          required
          bind:value={wish.quantity}
        /></label
      >
      <label class="min-w-0 flex-1 text-soft"
        >At<select class="field mt-1 block w-full" bind:value={wish.nodeId}
          >{#each nodes as n (n.id)}<option value={n.id}>{n.name}</option>{/each}</select
        ></label
      >
      <label class="w-36 text-soft"
        >Until<input class="field mt-1 block w-full" type="date" bind:value={wish.until} /></label
      >
    </div>
    <label class="block text-soft"
      >Note<input class="field mt-1 block w-full" maxlength="400" bind:value={wish.note} /></label
    >
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Set aside</Button>
  </form>
</Dialog>
