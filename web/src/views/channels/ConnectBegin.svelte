<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { setParams } from '../../state/address';
  import { session } from '../../state/session.svelte';

  let { open = $bindable() }: { open: boolean } = $props();

  const WHAT: Record<Schemas['ConnectingKind']['kind'], [string, string]> = {
    WEB_SHOP: ['Web shop', 'our own storefront, with a key'],
    MARKETPLACE: ['Marketplace', 'country sites, orders paid later, its own depot'],
    WHOLESALE: ['Wholesale portal', 'large orders, other currencies, paid in 30 days'],
    SPREADSHEET: ['Spreadsheets', 'files that people bring, in any layout'],
    MACHINE: ['Another system', 'it calls our API by itself'],
    BY_HAND: ['By hand', 'orders that our own people enter']
  };
  const client = useQueryClient();
  const kinds = createQuery(() => ({
    queryKey: ['connecting', 'kinds'],
    queryFn: () => get(api.GET('/api/connecting/kinds'))
  }));
  let wish = $state<Schemas['ConnectingNewChannel']>({
    kind: 'MARKETPLACE',
    code: '',
    name: '',
    prefix: '',
    currency: session.base
  });
  let problem = $state('');

  async function begin(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(
        api.POST('/api/connecting', {
          body: { ...wish, code: wish.code.toUpperCase(), prefix: wish.prefix.toUpperCase() }
        })
      );
      await client.invalidateQueries();
      open = false;
      setParams({ c: wish.code.toUpperCase(), tab: '' });
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="Connect a channel" wide>
  <form onsubmit={begin} class="space-y-3">
    <fieldset class="grid grid-cols-2 gap-x-4">
      <legend class="mb-1 text-soft">What kind is it?</legend>
      {#each kinds.data ?? [] as k (k.kind)}
        <label class="flex items-baseline gap-2 py-1">
          <input type="radio" name="kind" value={k.kind} bind:group={wish.kind} class="accent-verdigris" />
          <span
            ><b class="font-[650]">{WHAT[k.kind][0]}</b>
            <span class="block text-xs text-soft">{WHAT[k.kind][1]}</span></span
          >
        </label>
      {/each}
    </fieldset>
    <div class="flex gap-3">
      <label class="flex-1 text-soft"
        >Name
        <input
          class="field mt-1 block w-full"
          bind:value={wish.name}
          required
          maxlength="80"
          data-autofocus
        />
      </label>
      <label class="w-28 text-soft" title="In addresses: 2 to 12 letters or digits"
        >Short code
        <input
          class="field mt-1 block w-full font-mono uppercase"
          bind:value={wish.code}
          required
          pattern="[A-Za-z0-9]{'{'}2,12}"
        />
      </label>
      <label class="w-28 text-soft" title="Our order numbers begin with it"
        >Number prefix
        <input class="field mt-1 block w-full font-mono uppercase" bind:value={wish.prefix} required />
      </label>
      <label class="w-20 text-soft"
        >Currency
        <input
          class="field mt-1 block w-full font-mono uppercase"
          maxlength="3"
          bind:value={wish.currency}
          required
        />
      </label>
    </div>
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Begin</Button>
  </form>
</Dialog>
