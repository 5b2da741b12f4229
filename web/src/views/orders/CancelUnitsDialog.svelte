<script lang="ts">
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';

  let { open = $bindable(), sheet }: { open: boolean; sheet: Schemas['OrderSheetsSheet'] } = $props();

  const run = useDoing();
  const lines = $derived(sheet.lines.filter((l) => l.quantity - l.cancelled - l.shipped > 0));
  let units = $state<Record<number, number | undefined>>({});
  let reason = $state('');
  const chosen = $derived(Object.entries(units).filter(([, n]) => (n ?? 0) > 0) as [string, number][]);
  const sum = $derived(chosen.reduce((n, [, some]) => n + some, 0));

  function cancel(event: SubmitEvent) {
    event.preventDefault();
    open = false;
    void run(
      get(
        api.POST('/api/orders/{id}/cancel-units', {
          params: { path: { id: sheet.order.id } },
          body: { units: Object.fromEntries(chosen), reason }
        })
      ),
      `${plural(sum, 'unit')} cancelled; the channel is told`
    );
  }
</script>

<Dialog bind:open title="Cancel units of {sheet.order.number}">
  <form class="space-y-3" onsubmit={cancel}>
    <table class="w-full">
      <tbody>
        {#each lines as line (line.id)}
          <tr class="border-t border-line first:border-0">
            <td class="py-1 pe-2">{line.title}</td>
            <td class="py-1 text-right whitespace-nowrap"
              ><input
                class="field w-16 text-right"
                type="number"
                min="0"
                max={line.quantity - line.cancelled - line.shipped}
                aria-label="Units of {line.title}"
                bind:value={units[line.id]}
              />
              of {line.quantity - line.cancelled - line.shipped}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    <label class="block text-soft"
      >Why<input class="field mt-1 block w-full" required maxlength="200" bind:value={reason} /></label
    >
    <p class="text-soft">
      What is with a node is taken back, and the rest is routed again. What is being packed stays: stop it
      there first.
    </p>
    <Button main type="submit" disabled={!sum}>Cancel {sum ? plural(sum, 'unit') : 'units'}</Button>
  </form>
</Dialog>
