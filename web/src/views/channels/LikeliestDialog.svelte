<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { plural } from '../../parts/format';
  import { useDoing } from '../../state/doing';

  interface Props {
    open: boolean;
    channelId: number;
  }
  let { open = $bindable(), channelId }: Props = $props();

  /** From here on a guess is ticked to begin with. */
  const SURE = 90;
  const likeliest = createQuery(() => ({
    queryKey: ['likeliest', channelId],
    queryFn: () => get(api.GET('/api/listings/likeliest', { params: { query: { channel: channelId } } }))
  }));
  const rows = $derived(likeliest.data ?? []);
  let touched = $state<Record<number, boolean>>({});
  const isChosen = (row: (typeof rows)[number]) => touched[row.listingId] ?? row.suggestion.percent >= SURE;
  const chosen = $derived(rows.filter(isChosen));
  const run = useDoing();

  async function match() {
    const matches = chosen.map((row) => ({ listing: row.listingId, sku: row.suggestion.sku }));
    open = false;
    await run(
      get(api.POST('/api/listings/matches', { body: { matches } })),
      `${plural(matches.length, 'listing')} matched; orders that waited go on`
    );
  }
</script>

<Dialog bind:open title="What they most likely are" wide>
  <div class="max-h-96 overflow-y-auto">
    <table class="w-full">
      <tbody>
        {#each rows as row (row.listingId)}
          <tr class="h-8 border-t border-line">
            <td class="w-7"
              ><input
                type="checkbox"
                class="size-3.5 rounded-sm border-faint"
                aria-label="Match {row.title}"
                checked={isChosen(row)}
                onchange={(event) => (touched[row.listingId] = event.currentTarget.checked)}
              /></td
            >
            <td class="pe-3">{row.title}</td>
            <td class="pe-3"
              >→ <span class="font-mono text-xs">{row.suggestion.sku}</span> {row.suggestion.name}</td
            >
            <td class="text-right whitespace-nowrap text-soft"
              >{row.suggestion.because}, {row.suggestion.percent} %</td
            >
          </tr>
        {:else}
          <tr
            ><td class="py-2 text-soft"
              >{likeliest.isPending
                ? 'Looking…'
                : 'None of those without a match is like any of our items.'}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  </div>
  <Button main disabled={chosen.length === 0} onclick={() => void match()}
    >{chosen.length ? `Match ${plural(chosen.length, 'listing')}` : 'Match'}</Button
  >
</Dialog>
