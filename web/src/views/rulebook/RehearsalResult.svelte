<script lang="ts">
  import type { Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count, plural } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import RehearsedOrders from './RehearsedOrders.svelte';
  import { headline, loads, measures } from './rehearsal';

  interface Props {
    rehearsal: Schemas['RehearsalRehearsal'];
    onforget: () => void;
  }
  let { rehearsal, onforget }: Props = $props();

  const result = $derived(rehearsal.result!);
  const head = $derived(rehearsal.head);
  const rows = $derived(measures(result.was, result.again, result.would, rehearsal.currency));
  const nodes = $derived(loads(result.was, result.would, rehearsal.nodes));
  const most = $derived(Math.max(1, ...nodes.flatMap((n) => [n.was, n.would])));
  const others = $derived(result.changed - result.byDraft);
</script>

<section class="flex flex-col gap-3" aria-label="What came of the rehearsal">
  <header class="flex flex-wrap items-baseline gap-x-3">
    <h2 class="text-base font-[650]">{headline(result, rehearsal.currency)}</h2>
    <span class="ms-auto flex items-baseline gap-3">
      <a
        class="text-verdigris hover:underline"
        href="/api/rulebook/rehearsals/{head.id}/csv"
        aria-label="The orders that would go otherwise, as CSV"
        download>CSV</a
      >
      {#if session.mayChange}<Button small onclick={onforget}>Throw it away</Button>{/if}
    </span>
    {#if head.stale}<p class="w-full text-amber">The draft has been changed since: rehearse it again.</p>{/if}
  </header>
  <div class="grid gap-3 min-[1180px]:grid-cols-[minmax(0,1fr)_minmax(0,24rem)]">
    <div class="card overflow-x-auto">
      <table class="w-full">
        <thead
          ><tr class="h-8"
            ><th class="px-4">{plural(result.was.orders, 'order')} of {plural(head.days, 'day')}</th><th
              class="px-3 text-right">As it was</th
            ><th class="px-3 text-right">Edition {head.against} again</th><th class="px-3 text-right"
              >Edition {head.edition}</th
            ><th class="px-4 text-right">Difference</th></tr
          ></thead
        >
        <tbody>
          {#each rows as m (m.name)}
            <tr class="h-8 border-t border-line">
              <th class="px-4 text-left text-[0.875rem] font-normal text-ink" scope="row">{m.name}</th>
              <td class="px-3 text-right tabular-nums">{m.was}</td>
              <td class="px-3 text-right tabular-nums">{m.again}</td>
              <td class="px-3 text-right font-[600] tabular-nums">{m.would}</td>
              <td class="px-4 text-right whitespace-nowrap tabular-nums"
                ><span class={m.better ? '' : 'text-soft'}>{m.difference}</span>
                {#if m.better}<span class={['ms-1 text-xs', m.better > 0 ? 'text-verdigris' : 'text-madder']}
                    >{m.better > 0 ? 'better' : 'worse'}</span
                  >{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
      <p class="border-t border-line px-4 py-1.5 text-xs text-soft">
        Each order at the stock of its moment; both editions at today’s costs. {result.leftOut
          ? `${plural(result.leftOut, 'order')} left out: cancelled since, or from before stock was kept.`
          : ''} Holds are not waited for, and how long lots last is not looked at.
      </p>
    </div>
    <div class="card overflow-x-auto">
      <table class="w-full">
        <thead
          ><tr class="h-8"
            ><th class="px-4">Consignments by node</th><th class="px-2 text-right">Was</th><th
              class="px-2 text-right">Would</th
            ><th class="px-4 text-right">Busiest day</th></tr
          ></thead
        >
        <tbody>
          {#each nodes as n (n.code)}
            <tr class="h-9 border-t border-line">
              <th class="px-4 text-left text-[0.875rem] font-normal text-ink" scope="row"
                >{n.name}
                <span class="mt-0.5 block" aria-hidden="true"
                  ><i class="block h-1 bg-soft" style:width="{(100 * n.was) / most}%"></i><i
                    class="mt-px block h-1 bg-verdigris"
                    style:width="{(100 * n.would) / most}%"
                  ></i></span
                ></th
              >
              <td class="px-2 text-right tabular-nums">{count(n.was)}</td>
              <td class="px-2 text-right tabular-nums">{count(n.would)}</td>
              <td class="px-4 text-right whitespace-nowrap tabular-nums"
                >{count(n.busiest)}{#if n.capacity !== null}<span
                    class={['ms-1', n.busiest >= n.capacity ? 'text-madder' : 'text-soft']}
                    >of {count(n.capacity)}</span
                  >{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  </div>
  {#if result.changed}
    <RehearsedOrders {rehearsal} byDraft={result.byDraft} {others} />
  {/if}
</section>
