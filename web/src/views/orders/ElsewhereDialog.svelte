<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { day, plural } from '../../parts/format';
  import { money } from '../../parts/money';
  import { toasts } from '../../state/toasts.svelte';
  import { ruledOut } from './why';

  interface Props {
    open: boolean;
    id: number;
  }
  let { open = $bindable(), id }: Props = $props();

  type Alternative = Schemas['ElsewhereAlternative'];
  const client = useQueryClient();
  const path = $derived({ params: { path: { id } } });
  const seen = createQuery(() => ({
    queryKey: ['order', id, 'alternatives'],
    queryFn: () => get(api.GET('/api/orders/{id}/alternatives', path)),
    enabled: open,
    // stock moves: never shown from memory
    gcTime: 0,
    retry: false
  }));
  const all = $derived(seen.data);
  const key = (a: Alternative) => a.nodes.join(' ');
  const names = (nodes: string[]) => nodes.map((n) => all?.nodeNames[n] ?? n).join(' + ');
  let wanted = $state('');
  const chosen = $derived(all?.others.find((a) => key(a) === wanted) ?? all?.others[0]);
  let reason = $state('');
  let problem = $state('');
  let sending = $state(false);

  const units = $derived((all?.now?.parts ?? []).reduce((sum, part) => sum + part.units, 0));

  const difference = (a: Alternative) => {
    if (!all?.now) return '';
    const more = a.cost - all.now.cost;
    return more === 0 ? 'the same' : `${more > 0 ? '+' : '−'} ${money(Math.abs(more), all.currency)}`;
  };

  async function send(event: SubmitEvent) {
    event.preventDefault();
    if (!chosen) return;
    sending = true;
    try {
      await get(api.POST('/api/orders/{id}/elsewhere', { ...path, body: { nodes: chosen.nodes, reason } }));
      open = false;
      toasts.say(`Sent from ${names(chosen.nodes)}`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
      await seen.refetch();
    } finally {
      sending = false;
    }
  }
</script>

{#snippet row(a: Alternative)}
  <td class="py-1 pe-3">{names(a.nodes)}</td>
  <td class="pe-3 whitespace-nowrap text-soft"
    >{a.parts.map((p) => day(p.handOver)).join(', ')} → {day(a.arrival)}{#if a.late}
      <span class="text-madder">late</span>{/if}</td
  >
  <td class="pe-3 text-end tabular-nums">{money(a.cost, all?.currency ?? '')}</td>
{/snippet}

<Dialog bind:open title="Send it from elsewhere" wide>
  {#if seen.isError}
    <p class="text-madder" role="alert">{seen.error.message}</p>
  {:else if !all}
    <p class="text-soft">Asking each node…</p>
  {:else}
    <form class="space-y-3" onsubmit={send}>
      <p class="text-soft">
        What nobody has begun to pack{units ? `: ${plural(units, 'unit')}` : ''}, now at {names(
          all.nowNodes
        )}.
      </p>
      <table class="w-full">
        <thead>
          <tr>
            <th class="w-6"><span class="sr-only">Chosen</span></th>
            <th class="pe-3">From</th>
            <th class="pe-3">Leaves → arrives</th>
            <th class="pe-3 text-end">Cost, {all.currency}</th>
            <th class="text-end">Difference</th>
          </tr>
        </thead>
        <tbody>
          {#if all.now}
            <tr class="border-t border-line text-soft"
              ><td></td>{@render row(all.now)}<td class="text-end">now</td></tr
            >
          {/if}
          {#each all.others as a (key(a))}
            <tr class={['border-t border-line', a === chosen && 'bg-verdigris-wash']}>
              <td class="ps-1 pe-2"
                ><input
                  type="radio"
                  name="from"
                  class="accent-verdigris"
                  aria-label="from {names(a.nodes)}"
                  checked={a === chosen}
                  onchange={() => (wanted = key(a))}
                /></td
              >
              {@render row(a)}
              <td class="text-end tabular-nums">{difference(a)}</td>
            </tr>
          {:else}
            <tr class="border-t border-line"
              ><td></td><td colspan="4" class="py-1">No other node can send it.</td></tr
            >
          {/each}
          {#each all.ruledOut as out (out.node)}
            <tr class="border-t border-line text-soft"
              ><td></td><td class="py-1 pe-3">{names([out.node])}</td><td colspan="3">✕ {ruledOut(out)}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
      {#if chosen}
        <label class="block text-soft"
          >Why <input class="field mt-1 block w-full" bind:value={reason} maxlength="200" required /></label
        >
        <p class="min-h-5 text-madder" role="alert">{problem}</p>
        <Button main type="submit" disabled={sending}>Send from {names(chosen.nodes)}</Button>
      {/if}
    </form>
  {/if}
</Dialog>
