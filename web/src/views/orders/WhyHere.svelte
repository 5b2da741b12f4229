<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import DecisionCard from './DecisionCard.svelte';
  import ElsewhereDialog from './ElsewhereDialog.svelte';
  import Refusals from './Refusals.svelte';
  import RuleLooks from './RuleLooks.svelte';
  import WhatIf from './WhatIf.svelte';

  interface Props {
    id: number;
    /** Whether any of it waits at a node and may be sent from another. */
    movable: boolean;
  }
  let { id, movable }: Props = $props();
  let elsewhere = $state(false);
  const decisions = createQuery(() => ({
    queryKey: ['decisions', id],
    queryFn: () => get(api.GET('/api/orders/{id}/decisions', { params: { path: { id } } }))
  }));
</script>

{#if movable}
  <div class="mb-3"><Button onclick={() => (elsewhere = true)}>Send elsewhere…</Button></div>
  {#if elsewhere}<ElsewhereDialog bind:open={() => elsewhere, (yes) => (elsewhere = yes)} {id} />{/if}
{/if}
{#if movable || (decisions.data?.length && !decisions.data[0]!.chosen.length)}<WhatIf {id} />{/if}
<Refusals {id} />
{#each decisions.data ?? [] as decision, i (decision.at)}
  <section class={i ? 'mt-6 opacity-80' : ''}><DecisionCard {decision} /></section>
{:else}
  <p class="text-soft">
    {decisions.isPending
      ? 'Reading…'
      : 'Not routed yet. Once it is, each node looked at stands here with its cost, or with what ruled it out.'}
  </p>
{/each}
<RuleLooks {id} />
