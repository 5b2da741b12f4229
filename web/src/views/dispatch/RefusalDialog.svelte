<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { go } from '../../state/address';
  import { toasts } from '../../state/toasts.svelte';

  let { open = $bindable(), bench }: { open: boolean; bench: Schemas['DispatchBench'] } = $props();

  type Reason = Schemas['DispatchRefusalRequest']['reason'];
  const REASONS: [Reason, string][] = [
    ['NOT_THERE', 'not on the shelf'],
    ['DAMAGED', 'damaged'],
    ['NO_TIME', 'no time today'],
    ['OTHER', 'another reason']
  ];
  const client = useQueryClient();
  let reason = $state<Reason>('NOT_THERE');
  let missing = $state<Record<string, number | undefined>>({});
  let note = $state('');
  let problem = $state('');
  const asksWhich = $derived(reason === 'NOT_THERE' || reason === 'DAMAGED');

  async function refuse(event: SubmitEvent) {
    event.preventDefault();
    const named = Object.entries(missing).filter(([, units]) => (units ?? 0) > 0) as [string, number][];
    try {
      await get(
        api.POST('/api/dispatch/consignments/{id}/refusal', {
          params: { path: { id: bench.consignment.id } },
          body: { reason, missing: asksWhich ? Object.fromEntries(named) : {}, note }
        })
      );
      open = false;
      toasts.say(`${bench.consignment.number} is refused; its order is routed elsewhere`);
      go('/dispatch');
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="{bench.consignment.nodeName} can’t fill {bench.consignment.number}">
  <form class="space-y-3" onsubmit={refuse}>
    <fieldset class="flex flex-wrap gap-4">
      <legend class="sr-only">Why</legend>
      {#each REASONS as [value, label] (value)}
        <label><input type="radio" {value} bind:group={reason} class="accent-verdigris" /> {label}</label>
      {/each}
    </fieldset>
    {#if asksWhich}
      <table class="w-full">
        <thead
          ><tr
            ><th class="py-1">Item</th><th class="w-28 text-right"
              >Units {reason === 'DAMAGED' ? 'damaged' : 'missing'}</th
            ></tr
          ></thead
        >
        <tbody>
          {#each bench.lines as line (line.id)}
            <tr class="border-t border-line"
              ><td class="py-1 pe-2">{line.name}</td><td class="py-1 text-right whitespace-nowrap"
                ><input
                  class="field w-16 text-right"
                  type="number"
                  min="0"
                  max={line.quantity}
                  aria-label="Units of {line.sku}"
                  bind:value={missing[line.id]}
                />
                of {line.quantity}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
      <p class="text-soft">These units leave the stock of {bench.consignment.nodeName}.</p>
    {/if}
    <label class="block text-soft"
      >Note<input class="field mt-1 block w-full" bind:value={note} maxlength="400" /></label
    >
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Refuse it</Button>
  </form>
</Dialog>
