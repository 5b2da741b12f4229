<script lang="ts">
  import { createQuery, keepPreviousData, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { count, plural } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';

  interface Props {
    open: boolean;
    channelId: number;
    listings: number[] | null;
    search: string;
  }
  let { open = $bindable(), channelId, listings, search }: Props = $props();

  type Rule = Schemas['FeedRuleChange']['rule'];
  let rule = $state<Rule>({
    basis: 'AVAILABLE',
    withinDays: 14,
    buffer: 0,
    sharePercent: 100,
    cap: null,
    soldOut: 'STOP',
    oversellTo: 0,
    offered: true
  });
  let problem = $state('');
  const client = useQueryClient();
  const params = $derived({ path: { id: channelId } });
  const which = $derived({ listings, search });
  const preview = createQuery(() => ({
    queryKey: ['feed-rule', channelId, listings, search, { ...rule }],
    queryFn: () =>
      get(
        api.POST('/api/channels/{id}/feed/rules', {
          params,
          body: { which, rule: { ...rule, cap: rule.cap ?? null }, preview: true }
        })
      ),
    placeholderData: keepPreviousData
  }));
  const effects = $derived(preview.data?.effects ?? []);
  const changed = $derived(effects.filter((e) => e.before !== e.after));
  const sum = (which: 'before' | 'after') => effects.reduce((s, e) => s + e[which], 0);

  async function set(event: SubmitEvent) {
    event.preventDefault();
    try {
      const result = await get(
        api.POST('/api/channels/{id}/feed/rules', {
          params,
          body: { which, rule: { ...rule, cap: rule.cap ?? null }, preview: false }
        })
      );
      open = false;
      toasts.say(`${plural(result.listings, 'listing')} offer stock by this rule from now on`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="How much of the stock may they offer?" wide>
  <form onsubmit={set} class="space-y-3">
    <div class="flex flex-wrap items-center gap-x-2 gap-y-2">
      What is
      <select class="field h-7 w-36 py-0" aria-label="What is counted" bind:value={rule.basis}>
        <option value="AVAILABLE">available</option><option value="ON_HAND">on hand</option>
        <option value="ATP">to be promised</option>
      </select>
      {#if rule.basis === 'ATP'}
        within
        <input
          class="field h-7 w-16 text-right"
          type="number"
          min="0"
          max="180"
          aria-label="Days ahead"
          bind:value={rule.withinDays}
          required
        />
        days
      {/if}
      less
      <input
        class="field h-7 w-20 text-right"
        type="number"
        min="0"
        aria-label="Units kept back"
        bind:value={rule.buffer}
        required
        data-autofocus
      />
      units, of that
      <input
        class="field h-7 w-16 text-right"
        type="number"
        min="0"
        max="100"
        aria-label="Share in per cent"
        bind:value={rule.sharePercent}
        required
      />
      %, at most
      <input
        class="field h-7 w-20 text-right"
        type="number"
        min="0"
        aria-label="Most units"
        placeholder="no limit"
        bind:value={rule.cap}
      />
      units.
    </div>
    <label class="block"
      ><input type="checkbox" class="size-3.5 rounded-sm border-faint" bind:checked={rule.offered} /> they are
      offered
      <span class="text-soft">— otherwise none is, whatever is there, until this is said again</span></label
    >
    <div class="flex flex-wrap items-center gap-x-2">
      When sold out
      <select class="field h-7 w-60 py-0" aria-label="When sold out" bind:value={rule.soldOut}>
        <option value="STOP">stop offering it</option>
        <option value="OVERSELL">oversell down to a floor</option>
        <option value="WAITING_LIST">stop, and keep a waiting list</option>
      </select>
      {#if rule.soldOut === 'OVERSELL'}
        of minus
        <input
          class="field h-7 w-20 text-right"
          type="number"
          min="0"
          aria-label="Floor"
          bind:value={rule.oversellTo}
          required
        />
        units
      {/if}
    </div>
    <p class="text-soft" aria-live="polite">
      {#if preview.data}{plural(changed.length, 'listing')} of {count(effects.length)} would offer something else;
        in all {count(sum('before'))} → <b class="font-[650] text-ink">{count(sum('after'))}</b> units.{:else}Working
        it out…{/if}
    </p>
    {#if changed.length}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex (what scrolls must be reached by keyboard) -->
      <div
        class="max-h-44 overflow-y-auto"
        role="region"
        aria-label="Listings that would change"
        tabindex="0"
      >
        <table class="w-full">
          <tbody>
            {#each changed.slice(0, 100) as e (e.listingId)}
              <tr class="h-[26px] border-t border-line first:border-0"
                ><td class="max-w-72 truncate pe-2">{e.title}</td><td class="pe-2 text-right text-soft"
                  >{count(e.before)}</td
                ><td class="w-4 text-soft">→</td><td
                  class={['text-right font-[650]', e.after === 0 && 'text-madder']}>{count(e.after)}</td
                ></tr
              >
            {/each}
          </tbody>
        </table>
      </div>
    {/if}
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Set it for {plural(effects.length, 'listing')}</Button>
  </form>
</Dialog>
