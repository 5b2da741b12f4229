<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';

  let { channelId }: { channelId: number } = $props();

  const client = useQueryClient();
  const carriers = createQuery(() => ({
    queryKey: ['channels', 'carriers', channelId],
    queryFn: () => get(api.GET('/api/channels/{id}/carriers', { params: { path: { id: channelId } } }))
  }));
  const names = $derived(carriers.data?.names ?? []);

  async function say(carrier: string, name: string) {
    try {
      await get(
        api.PUT('/api/channels/{id}/carriers/{carrier}', {
          params: { path: { id: channelId, carrier } },
          body: { name }
        })
      );
      toasts.say(`Called “${name}” there from now on; what waited is told`);
      await client.invalidateQueries();
    } catch (error) {
      toasts.fail(error);
    }
  }
</script>

{#if carriers.isError}<p class="text-madder">{carriers.error.message}</p>{/if}
<p class="mb-2 text-soft">
  {names.length
    ? 'This channel takes certain names only. What it is told of a shipment names the carrier as chosen here.'
    : 'This channel takes any name: our own is used unless another is given here.'}
</p>
<table>
  <thead><tr><th class="py-1 pe-4">Our carrier</th><th>Its name there</th></tr></thead>
  <tbody>
    {#each carriers.data?.carriers ?? [] as c (c.carrier)}
      <tr class="h-9 border-t border-line">
        <td class="pe-4 font-[550]">{c.carrierName}</td>
        <td>
          {#if names.length}
            <select
              class="field h-7 w-56 py-0"
              aria-label="What {c.carrierName} is called there"
              disabled={!session.mayChange}
              value={c.name ?? ''}
              onchange={(event) => void say(c.carrier, event.currentTarget.value)}
            >
              <option value="" disabled>not said yet</option>
              {#each names as name (name)}<option>{name}</option>{/each}
            </select>
          {:else}
            <input
              class="field h-7 w-56"
              aria-label="What {c.carrierName} is called there"
              disabled={!session.mayChange}
              value={c.name ?? ''}
              placeholder={c.carrierName}
              onchange={(event) =>
                event.currentTarget.value && void say(c.carrier, event.currentTarget.value)}
            />
          {/if}
        </td>
      </tr>
    {/each}
  </tbody>
</table>
