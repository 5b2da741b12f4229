<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { setParams } from '../../state/address';
  import { toasts } from '../../state/toasts.svelte';
  import { session } from '../../state/session.svelte';

  let { open = $bindable() }: { open: boolean } = $props();

  const client = useQueryClient();
  let name = $state('');
  let code = $state('');
  let currency = $state(session.base);
  let problem = $state('');

  async function add(event: SubmitEvent) {
    event.preventDefault();
    try {
      const body = { name, code: code.toUpperCase(), currency: currency.toUpperCase() };
      const { id } = await get(api.POST('/api/suppliers', { body }));
      open = false;
      toasts.say(`${name} is a supplier`);
      await client.invalidateQueries();
      setParams({ s: String(id) });
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="A supplier">
  <form class="space-y-3" onsubmit={add}>
    <label class="block text-soft"
      >Name<input
        class="field mt-1 block w-full"
        bind:value={name}
        maxlength="80"
        required
        data-autofocus
      /></label
    >
    <div class="flex gap-3">
      <label
        class="block flex-1 text-soft"
        title="What begins the SKUs of items that are made from its offers"
        >Short code<input
          class="field mt-1 block w-full font-mono"
          bind:value={code}
          maxlength="12"
          required
        /></label
      >
      <label class="block w-28 text-soft"
        >Currency<input class="field mt-1 block w-full" bind:value={currency} maxlength="3" required /></label
      >
    </div>
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Add</Button>
  </form>
</Dialog>
