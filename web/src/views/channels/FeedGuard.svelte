<script lang="ts">
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { ago, count, fullMoment, plural } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import { useDoing } from '../../state/doing';
  import type { Channel } from './health';
  import { patchChannel } from './patch';

  let { channel: c, state: feed }: { channel: Channel; state: Schemas['FeedFeedState'] } = $props();

  const run = useDoing();
  const params = $derived({ path: { id: c.id } });
  const hold = $derived(feed.hold);
  const sum = (which: 'before' | 'after') => (hold?.lines ?? []).reduce((s, l) => s + (l[which] ?? 0), 0);
  const last = $derived(feed.settled[0]);

  const tell = (feeds: boolean) =>
    run(
      patchChannel(c, { feeds }),
      feeds
        ? 'It will be told what is in stock; the guard shows you the first push before it goes'
        : 'Not told what is in stock any more'
    );
  const limit = (change: Partial<Schemas['FeedGuard']>) =>
    run(
      get(api.PUT('/api/channels/{id}/feed/guard', { params, body: { ...feed.guard, ...change } })),
      'The guard holds to it'
    );
</script>

<div class="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line pb-2.5">
  <span>
    <span aria-hidden="true">{c.feeds ? (hold ? '✕' : '✓') : '‖'}</span>
    {c.feeds
      ? hold
        ? 'held by the guard'
        : c.lastFeedError
          ? c.lastFeedError
          : 'told what is in stock'
      : 'not told what is in stock'}
    {#if c.lastFedAt}<span class="text-soft" title={fullMoment(c.lastFedAt)}
        >· last push {ago(c.lastFedAt)}, {plural(c.lastFedLines, 'listing')}</span
      >{/if}
  </span>
  <label class="text-soft"
    >The guard holds what zeroes more than
    <input
      class="field h-6 w-14 text-right"
      type="number"
      min="0"
      max="100"
      disabled={!session.mayChange}
      value={feed.guard.zeroed}
      onchange={(event) => void limit({ zeroed: event.currentTarget.valueAsNumber })}
    /> % of live listings</label
  >
  <label class="text-soft"
    >or drops the sum by more than
    <input
      class="field h-6 w-14 text-right"
      type="number"
      min="0"
      max="100"
      disabled={!session.mayChange}
      value={feed.guard.drop}
      onchange={(event) => void limit({ drop: event.currentTarget.valueAsNumber })}
    /> %</label
  >
  {#if session.mayChange}
    <span class="ms-auto"
      ><Button small main={!c.feeds} onclick={() => void tell(!c.feeds)}
        >{c.feeds ? 'Stop telling stock' : 'Tell it what is in stock'}</Button
      ></span
    >
  {/if}
</div>
{#if hold}
  <section class="mb-3 rounded-md border border-madder bg-madder-wash px-3 py-2.5" aria-label="Held push">
    <div class="flex items-baseline gap-3">
      <h3 class="font-[650]">Held {ago(hold.heldAt)}: {hold.reasons}</h3>
      {#if session.mayChange}
        <span class="ms-auto flex gap-1.5">
          <Button
            small
            main
            onclick={() =>
              void run(
                get(api.POST('/api/channels/{id}/feed/let-through', { params })),
                `${plural(hold.lines.length, 'listing')} told`
              )}>Let it through</Button
          >
          <Button
            small
            onclick={() =>
              void run(
                get(api.POST('/api/channels/{id}/feed/refuse', { params })),
                'Refused; the channel keeps what it has'
              )}>Refuse</Button
          >
        </span>
      {/if}
    </div>
    <p class="text-soft">
      {plural(hold.lines.length, 'listing')} would change, from {count(sum('before'))} to {count(
        sum('after')
      )} units in all. Nothing goes to this channel until somebody has decided.
    </p>
    <!-- svelte-ignore a11y_no_noninteractive_tabindex (what scrolls must be reached by keyboard) -->
    <div
      class="mt-1.5 max-h-52 overflow-y-auto bg-sheet"
      role="region"
      aria-label="Lines that would change"
      tabindex="0"
    >
      <table class="w-full">
        <thead
          ><tr
            ><th class="px-2 py-1">Listing</th><th class="px-2">Title</th><th class="px-2 text-right"
              >The channel has</th
            ><th class="px-2 text-right">It would be told</th></tr
          ></thead
        >
        <tbody>
          {#each hold.lines as l (l.listingId)}
            <tr class="h-[26px] border-t border-line">
              <td class="px-2 font-mono text-xs text-soft">{l.externalId}</td>
              <td class="max-w-80 truncate px-2">{l.title}</td>
              <td class="px-2 text-right">{l.before == null ? 'unknown' : count(l.before)}</td>
              <td class={['px-2 text-right font-[650]', l.before !== 0 && l.after === 0 && 'text-madder']}
                >{count(l.after)}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  </section>
{:else if last}
  <p class="mb-2 text-soft" title={fullMoment(last.settledAt)}>
    Last held push ({last.reasons}) {last.state === 'REFUSED' ? 'refused' : 'let through'} by {last.settledBy}
    {ago(last.settledAt)}.
  </p>
{/if}
