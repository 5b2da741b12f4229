<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { moment } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';

  let { id }: { id: number } = $props();

  const run = useDoing();
  const query = createQuery(() => ({
    queryKey: ['refusals', id],
    queryFn: () => get(api.GET('/api/orders/{order}/refusals', { params: { path: { order: id } } }))
  }));
  const WHY: Record<Schemas['RefusalsCard']['reason'], string> = {
    NOT_THERE: 'not on the shelf',
    DAMAGED: 'damaged',
    NO_TIME: 'no time that day',
    OTHER: 'another reason'
  };
  const lift = (r: Schemas['RefusalsCard']) =>
    run(
      get(
        api.POST('/api/orders/{order}/refusals/{consignment}/lift', {
          params: { path: { order: id, consignment: r.consignmentId } }
        })
      ),
      `${r.node} may be asked again`
    );
</script>

{#if query.data?.length}
  <section class="mb-4" aria-label="Refusals">
    <h3>Refused</h3>
    <ul>
      {#each query.data as r (r.consignmentId)}
        <li class="flex items-baseline gap-2 border-t border-line py-1.5">
          <span
            ><b class="font-[650]">{r.node}</b>: {WHY[r.reason]}{r.what.length
              ? `, ${r.what.join(', ')}`
              : ''}{r.note ? ` — ${r.note}` : ''}
            <span class="text-soft">{r.actor}, {moment(r.at)}</span></span
          >
          <span class="ms-auto flex-none">
            {#if r.lifted}<span class="text-soft">may be asked again</span>
            {:else if r.stands && session.mayChange}<Button small onclick={() => void lift(r)}
                >Ask again</Button
              >{/if}
          </span>
        </li>
      {/each}
    </ul>
  </section>
{/if}
