<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import { word } from '../../parts/format';

  let { channelId }: { channelId: number } = $props();

  const wordings = createQuery(() => ({
    queryKey: ['channels', 'wordings', channelId],
    queryFn: () => get(api.GET('/api/channels/{id}/wordings', { params: { path: { id: channelId } } }))
  }));
</script>

<table>
  <tbody>
    {#each wordings.data ?? [] as w (w.how + w.wording)}
      <tr class="h-7"
        ><td class="pe-3 text-soft">{w.how === 'EXACT' ? 'is' : word(w.how)}</td><td class="pe-3 font-[550]"
          >“{w.wording}”</td
        ><td class="text-soft">means {word(w.level)} service</td></tr
      >
    {:else}
      <tr
        ><td class="text-soft">None yet: an unknown wording becomes a snag, and its meaning is remembered.</td
        ></tr
      >
    {/each}
  </tbody>
</table>
