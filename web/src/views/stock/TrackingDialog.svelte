<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    open: boolean;
    id: number;
    sku: string;
    now: Schemas['LotsTracking'];
    counted: boolean;
    /** The tag of the settings when they were read. */
    settingsTag: string;
  }
  let { open = $bindable(), id, sku, now, counted, settingsTag }: Props = $props();

  const client = useQueryClient();
  /** What is being chosen was chosen over what was there then. */
  const seen = untrack(() => settingsTag);
  let tracking = $state(untrack(() => ({ ...now })));
  let isCounted = $state(untrack(() => counted));
  let problem = $state('');

  async function save(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(
        api.PUT('/api/stock/items/{id}/tracking', {
          params: { path: { id }, header: { 'If-Match': seen } },
          body: $state.snapshot(tracking)
        })
      );
      if (isCounted !== counted) {
        await get(
          api.PUT('/api/stock/items/{id}/counted', {
            params: { path: { id } },
            body: { counted: isCounted }
          })
        );
      }
      open = false;
      toasts.say(`How ${sku} is tracked is changed`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="How {sku} is tracked">
  <form class="space-y-3" onsubmit={save}>
    <label class="block text-soft"
      >Its units are told apart<select class="field mt-1 block w-full" bind:value={tracking.by} data-autofocus
        ><option value="NOTHING">not at all</option><option value="LOT">by lot</option><option value="EXPIRY"
          >by lot, each with a last day of use</option
        ><option value="SERIAL">by serial number, scanned when it is packed</option></select
      ></label
    >
    {#if tracking.by === 'LOT' || tracking.by === 'EXPIRY'}
      <label class="block text-soft"
        >What is sent first<select class="field mt-1 block w-full" bind:value={tracking.pick}
          ><option value="FEFO">what may be used for the shortest time</option><option value="FIFO"
            >what came first</option
          ></select
        ></label
      >
      <label class="block"
        ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={tracking.oneLot} /> one lot
        for a line, if any has enough</label
      >
      <label class="block text-soft"
        >Days for which it must be usable once it has arrived<input
          class="field mt-1 block w-24 text-right"
          type="number"
          min="0"
          max="3650"
          required
          bind:value={tracking.minLife}
        /></label
      >
    {/if}
    <label class="block"
      ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={isCounted} /> it is
      counted
      <span class="text-soft">— otherwise there is always enough of it</span></label
    >
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Save</Button>
  </form>
</Dialog>
