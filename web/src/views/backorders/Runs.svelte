<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, moment, plural, word } from '../../parts/format';
  import { go } from '../../state/address';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import RunForm from './RunForm.svelte';
  import RunSheet from './RunSheet.svelte';
  import { PLAIN, saysBy, type Settings } from './runs';
  import Tabs from './Tabs.svelte';

  let { params = {} }: { params?: { id?: string } } = $props();

  const id = $derived(params.id ? Number(params.id) : undefined);
  const runs = createQuery(() => ({
    queryKey: ['allocation', 'runs'],
    queryFn: () => get(api.GET('/api/allocation/runs')),
    refetchInterval: (query) => (query.state.data?.some((r) => r.state === 'COMMITTING') ? 700 : false)
  }));
  const plans = createQuery(() => ({
    queryKey: ['allocation', 'plans'],
    queryFn: () => get(api.GET('/api/allocation/plans'))
  }));
  const rows = $derived(runs.data ?? []);
  const run = useDoing();
  let making = $state<{ name: string; settings: Settings }>();

  const begin = (plan?: Schemas['RunPlansPlan']) =>
    (making = plan
      ? { name: plan.name, settings: structuredClone($state.snapshot(plan.settings)) as Settings }
      : { name: 'Allocation', settings: structuredClone(PLAIN) });
  function seen(made: number) {
    making = undefined;
    go(`/backorders/runs/${made}`);
  }
</script>

<div class="flex min-h-0 flex-1 flex-col">
  <Tabs />
  <div class="flex min-h-0 flex-1">
    <section class={['flex min-w-0 flex-col', id ? 'w-[38%]' : 'flex-1']} aria-label="Allocation runs">
      <header class="flex items-baseline gap-3 px-4 pt-3 pb-2">
        <h1>{rows.length ? plural(rows.length, 'run') : 'No run yet'}</h1>
        {#if session.mayChange}<span class="ms-auto"
            ><Button main small onclick={() => begin()}>New run…</Button></span
          >{/if}
      </header>
      <div class="min-h-0 flex-1 overflow-auto border-t border-line" role="region" aria-label="Runs">
        {#each plans.data ?? [] as plan (plan.id)}
          <p class="flex items-baseline gap-2 border-b border-line px-4 py-1.5">
            <span class="min-w-0 flex-1 truncate"
              ><b class="font-[650]">{plan.name}</b>
              <span class="text-soft"
                >kept by {plan.madeBy} · {plan.everyMinutes
                  ? `every ${plural(plan.everyMinutes, 'minute')}, next ${plan.nextAt ? moment(plan.nextAt) : ''}`
                  : 'by hand'}</span
              ></span
            >
            {#if session.mayChange}
              <Button small onclick={() => begin(plan)}>Run…</Button>
              <Button
                small
                onclick={() =>
                  void run(
                    get(api.DELETE('/api/allocation/plans/{id}', { params: { path: { id: plan.id } } })),
                    `${plan.name} is forgotten`
                  )}>Forget</Button
              >{/if}
          </p>
        {/each}
        {#each rows as r (r.id)}
          <a
            class={[
              'block border-b border-line px-4 py-1.5',
              r.id === id ? 'bg-verdigris-wash shadow-[inset_3px_0_var(--verdigris)]' : 'hover:bg-sunk'
            ]}
            aria-current={r.id === id ? 'true' : undefined}
            href="#/backorders/runs/{r.id}"
          >
            <span class="flex gap-2"
              ><b class="min-w-0 flex-1 truncate font-[650]">{r.name}</b><span
                class={r.state === 'PREVIEW' ? 'text-amber-ink' : 'text-soft'}
                >{r.state === 'PREVIEW' ? 'only seen' : word(r.state)}</span
              ></span
            >
            <span class="block truncate text-soft"
              >{count(r.given)} of {count(r.asked)} units to {plural(r.orders, 'order')}{r.shortOrders
                ? `, ${count(r.shortOrders)} short`
                : ''} · {saysBy(r.settings.by)} · {moment(r.madeAt)}</span
            >
          </a>
        {:else}
          <p class="p-4 text-soft">
            {runs.isPending
              ? 'Reading…'
              : 'A run gives what there is to all that waits, in an order that you choose. It is seen before it is done.'}
          </p>
        {/each}
      </div>
    </section>
    {#if id !== undefined}{#key id}<RunSheet
          {id}
          others={rows.filter((r) => r.id !== id)}
          onagain={(r) => (making = r)}
        />{/key}{/if}
  </div>
</div>
{#if making}<RunForm
    bind:open={() => true, (yes) => (making = yes ? making : undefined)}
    start={making}
    onseen={seen}
  />{/if}
