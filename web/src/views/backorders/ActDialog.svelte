<script lang="ts" module>
  export type Action = 'RELEASE' | 'IN_PART' | 'WHOLE' | 'CANCEL' | 'REPLACE';
</script>

<!-- What an action on orders that wait would do, order by order; then it is done. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';

  interface Props {
    open: boolean;
    orders: number[];
    action: Action;
    ondone: () => void;
  }
  let { open = $bindable(), orders, action, ondone }: Props = $props();

  const WORDS: Record<Action, { title: string; button: string; done: string }> = {
    RELEASE: { title: 'Send now, whoever is in front', button: 'Send', done: 'sent' },
    IN_PART: {
      title: 'Send what is there, let the rest wait',
      button: 'Send in part',
      done: 'may go in part'
    },
    WHOLE: { title: 'Wait until all of it is there', button: 'Let them wait', done: 'wait whole' },
    CANCEL: { title: 'Cancel what is missing; the channel is told', button: 'Cancel it', done: 'cancelled' },
    REPLACE: { title: 'Send something else instead', button: 'Send that', done: 'get something else' }
  };
  const words = $derived(WORDS[action]);
  const run = useDoing();
  const body = untrack(() => ({ orders: [...orders], action }));
  const preview = createQuery(() => ({
    queryKey: ['backorders', 'act', body],
    queryFn: () => get(api.POST('/api/backorders/actions/preview', { body })),
    gcTime: 0
  }));
  const effects = $derived(preview.data ?? []);
  const able = $derived(effects.filter((e) => e.done));

  async function act() {
    open = false;
    await run(
      get(api.POST('/api/backorders/actions', { body: { ...body, orders: able.map((e) => e.orderId) } })),
      `${plural(able.length, 'order')}: ${words.done}`
    );
    ondone();
  }
</script>

<Dialog bind:open wide title={words.title}>
  {#if preview.isPending}<p class="text-soft">Looking what it would do…</p>
  {:else if preview.isError}<p class="text-madder">{preview.error.message}</p>
  {:else}
    <div class="max-h-80 overflow-y-auto">
      <table class="w-full">
        <tbody>
          {#each effects as e (e.orderId)}
            <tr class="border-t border-line first:border-0">
              <td class="py-1 pe-2 font-mono text-xs">{e.orderNumber}</td>
              <td class="max-w-32 truncate pe-2" dir="auto">{e.buyer}</td>
              <td class={e.done ? '' : 'text-madder'}>{e.done ? '' : '✕ '}{e.what}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    <p class="flex gap-2">
      <Button main disabled={!able.length} onclick={() => void act()}
        >{words.button}{able.length < effects.length ? ` (${able.length} of ${effects.length})` : ''}</Button
      >
      <Button onclick={() => (open = false)}>Leave it</Button>
    </p>
  {/if}
</Dialog>
