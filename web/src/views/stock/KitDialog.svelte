<script lang="ts">
  import { untrack } from 'svelte';
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get, Problem } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import KitPartRow from './KitPartRow.svelte';
  import { WHEN, type Explode, type KitSheet } from './kits';

  interface Props {
    open: boolean;
    id: number;
    sku: string;
    sheet: KitSheet;
  }
  let { open = $bindable(), id, sku, sheet }: Props = $props();

  const client = useQueryClient();
  const blank = () => ({ sku: '', quantity: 1, choice: '', label: '' });
  const before = untrack(() => sheet);
  let parts = $state(
    before.parts.length
      ? before.parts.map((p) => ({ sku: p.sku, quantity: p.quantity, choice: p.choice, label: p.label }))
      : [blank(), blank()]
  );
  let explode = $state<Explode>(before.explode ?? 'AT_ROUTING');
  let pricing = $state<NonNullable<KitSheet['pricing']>>(before.pricing ?? 'BY_LIST_PRICE');
  let added = $state<object>();
  let wrong = $state<Problem>();
  const path = $derived({ params: { path: { id } } });

  function add() {
    parts.push(blank());
    added = parts.at(-1);
  }
  async function attempt(what: Promise<unknown>, done: string) {
    try {
      await what;
      open = false;
      toasts.say(done);
      await client.invalidateQueries();
    } catch (error) {
      wrong = error instanceof Problem ? error : new Problem(0, String(error));
    }
  }
  function save(event: SubmitEvent) {
    event.preventDefault();
    const body = {
      explode,
      pricing,
      version: before.version,
      parts: parts.filter((p) => p.sku.trim()).map((p) => ({ ...p, sku: p.sku.trim() }))
    };
    void attempt(get(api.PUT('/api/stock/items/{id}/kit', { ...path, body })), `${sku} is a kit`);
  }
  const dissolve = () =>
    attempt(get(api.DELETE('/api/stock/items/{id}/kit', path)), `${sku} is no longer a kit`);
</script>

<Dialog bind:open title="What is in {sku}" wide>
  <form onsubmit={save} class="space-y-3">
    <div>
      <div class="grid grid-cols-[1fr_4.5rem_8rem_6rem_auto] gap-2 pb-1 text-soft">
        <span>Component</span><span class="text-right">In each</span><span
          title="Leave it empty for what is always in it">One of a choice</span
        ><span title="How an order says it">Answer</span><span class="w-4"></span>
      </div>
      {#each parts as part, i (part)}
        <KitPartRow
          bind:part={parts[i]!}
          isNew={part === added}
          wrong={wrong?.field?.startsWith(`parts[${i}]`) ? wrong.message : ''}
          onremove={() => (parts = parts.filter((p) => p !== part))}
        />
      {/each}
      <Button small onclick={add}>Another component</Button>
    </div>
    <label class="block text-soft"
      >Taken apart
      <select class="field mt-1 block w-full" bind:value={explode}
        >{#each Object.entries(WHEN) as [value, words] (value)}<option {value}>{words}</option>{/each}</select
      >
    </label>
    <label class="block text-soft"
      >Its price comes to the components
      <select class="field mt-1 block w-full" bind:value={pricing}
        ><option value="BY_LIST_PRICE">in proportion to their list prices</option><option value="LIST_PRICES"
          >at their list prices, with one discount for the kit</option
        ></select
      >
    </label>
    <p class="min-h-5 text-madder" role="alert">{wrong?.message ?? ''}</p>
    <div class="flex gap-2">
      <Button main type="submit">Save</Button>
      {#if before.explode}<Button onclick={dissolve} title="The item stays; it is no longer made of others"
          >No kit any more</Button
        >{/if}
    </div>
  </form>
</Dialog>
