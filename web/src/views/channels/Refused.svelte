<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { ago, fullMoment, plural } from '../../parts/format';
  import RefusedDialog from '../../parts/RefusedDialog.svelte';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';

  let { channelId }: { channelId: number } = $props();

  const client = useQueryClient();
  const refused = createQuery(() => ({
    queryKey: ['channels', 'refused'],
    queryFn: () => get(api.GET('/api/intake/refused'))
  }));
  const rows = $derived((refused.data ?? []).filter((r) => r.channelId === channelId));
  let opened = $state<number>();

  async function tryAll() {
    try {
      const tried = await get(
        api.POST('/api/intake/refused/try-again', { body: { messages: rows.map((r) => r.id) } })
      );
      toasts.say(
        `${plural(tried.taken, 'order')} taken in` +
          (tried.stillWrong.length ? `; ${tried.stillWrong.length} can still not be read` : '')
      );
      await client.invalidateQueries();
    } catch (error) {
      toasts.fail(error);
    }
  }
</script>

{#if rows.length && session.mayChange}
  <p class="mb-2"><Button small onclick={() => void tryAll()}>Try all again as they are</Button></p>
{/if}
<table class="w-full">
  <thead
    ><tr
      ><th class="py-1 pe-2">Its order</th><th class="pe-2">Where</th><th class="pe-2">What is wrong there</th
      ><th class="pe-2">Came</th><th></th></tr
    ></thead
  >
  <tbody>
    {#each rows as r (r.id)}
      <tr class="h-[30px] border-t border-line">
        <td class="pe-2 font-mono text-xs">{r.externalId || '—'}</td>
        <td class="pe-2 font-mono text-xs">{r.place}</td>
        <td class="pe-2 text-madder">{r.problem}</td>
        <td class="pe-2 text-soft" title={fullMoment(r.receivedAt)}>{ago(r.receivedAt)}</td>
        <td class="text-right"
          >{#if session.mayChange}<Button small onclick={() => (opened = r.id)}>Correct</Button>{/if}</td
        >
      </tr>
    {:else}
      <tr
        ><td class="py-2 text-soft" colspan="5"
          >Every message could be read. One that can’t be is kept here, and can be corrected.</td
        ></tr
      >
    {/each}
  </tbody>
</table>
{#if opened !== undefined}
  <RefusedDialog
    bind:open={() => opened !== undefined, (yes) => yes || (opened = undefined)}
    refusedId={opened}
  />
{/if}
