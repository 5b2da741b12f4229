<script lang="ts">
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  interface Props {
    open: boolean;
    node: Schemas['StockGridNodeHead'];
  }
  let { open = $bindable(), node }: Props = $props();

  const MOMENTS: [typeof node.leaves, string, string][] = [
    ['RELEASE', 'on release', 'as soon as the node is told of a consignment'],
    ['PACK', 'on packing', 'when all of it is in the parcel'],
    ['LABEL', 'on the label', 'when the parcel has its label'],
    ['HAND_OVER', 'on hand-over', 'when the carrier has it']
  ];
  const run = useDoing();
  let leaves = $state(untrack(() => node.leaves));

  async function save(event: SubmitEvent) {
    event.preventDefault();
    await run(
      get(api.PUT('/api/stock/nodes/{id}/leaves', { params: { path: { id: node.id } }, body: { leaves } })),
      `Goods leave ${node.name}’s stock ${MOMENTS.find(([m]) => m === leaves)?.[1]}`
    );
    open = false;
  }
</script>

<Dialog bind:open title={node.name}>
  <form class="space-y-3" onsubmit={save}>
    <fieldset class="space-y-1" disabled={!session.mayChange}>
      <legend class="mb-1 text-soft">Goods leave its stock; until then they are allocated</legend>
      {#each MOMENTS as [value, short, long] (value)}
        <label class="block"
          ><input type="radio" class="accent-verdigris" {value} bind:group={leaves} />
          {short} <span class="text-soft">— {long}</span></label
        >
      {/each}
    </fieldset>
    <p class="text-soft">Units with serial numbers leave when they are packed, at the earliest.</p>
    <div class="flex items-center gap-3">
      {#if session.mayChange}<Button main type="submit">Save</Button>{/if}
      <a class="text-verdigris hover:underline" href="#/stock/ledger?node={node.code}">What moved there</a>
    </div>
  </form>
</Dialog>
