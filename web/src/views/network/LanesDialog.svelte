<!-- By what a node sends to a zone: its lanes with their days and rates, and another one. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { word } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { ratesOf, saysRates } from './rates';

  interface Props {
    open: boolean;
    node: { code: string; name: string };
    zone: string;
    currency: string;
  }
  let { open = $bindable(), node, zone, currency }: Props = $props();
  type Wish = Schemas['LanesLaneWish'];

  const run = useDoing();
  // what is undone after the dialog is gone is still of this node
  const from = untrack(() => node);
  const to = untrack(() => zone);
  const lanes = createQuery(() => ({
    queryKey: ['network', 'lanes', from.code, to],
    queryFn: () => get(api.GET('/api/network/lanes', { params: { query: { node: from.code, zone: to } } }))
  }));
  const carriers = createQuery(() => ({
    queryKey: ['network', 'carriers'],
    queryFn: () => get(api.GET('/api/network/carriers'))
  }));
  const another: Wish = {
    key: { node: from.code, zone: to, carrier: '', service: '' },
    terms: { level: 'STANDARD', workdays: 'MON-FRI', transitDays: 1, hazards: [], rates: [] }
  };
  let at = $state(0);
  let changed = $state<Wish>();
  let rates = $state<string>();
  let problem = $state('');
  const all = $derived(lanes.data ?? []);
  const shown = $derived(all[at]);
  const kept = $derived<Wish>(shown ? { key: shown.key, terms: shown.terms } : another);
  const isNew = $derived(shown === undefined);
  const lane = $derived(changed ?? kept);
  const change = (terms: Partial<Wish['terms']>, key: Partial<Wish['key']> = {}) =>
    (changed = { key: { ...lane.key, ...key }, terms: { ...lane.terms, ...terms } });

  function show(which: number) {
    at = which;
    changed = rates = undefined;
    problem = '';
  }
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const before = isNew ? undefined : kept;
    const steps = ratesOf(rates ?? saysRates(lane.terms.rates, currency), currency);
    if (!steps) {
      problem = 'Each line of the rates is a weight in grams and a price: 2000 4.95';
      return;
    }
    const put = (body: Wish) => get(api.PUT('/api/network/lanes', { body }));
    try {
      await put({ key: lane.key, terms: { ...lane.terms, rates: steps } });
      await run(
        Promise.resolve(),
        `${from.name} sends so to ${word(to)} from now on`,
        before && (() => void run(put(before), 'It sends as before'))
      );
      changed = rates = undefined;
      problem = '';
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
  const FIELD = 'field mt-1 block h-8 w-full text-ink';
</script>

<Dialog bind:open title="By what {from.name} sends to {word(to)}" wide>
  <nav class="flex flex-wrap gap-2" aria-label="Lanes">
    {#each all as l, i (l.id)}
      <button
        type="button"
        class={[
          'rounded-md border px-2 py-0.5',
          i === at ? 'border-verdigris bg-verdigris-wash font-[650]' : 'border-line hover:bg-sunk'
        ]}
        aria-pressed={i === at}
        onclick={() => show(i)}>{l.key.carrier} {l.key.service}</button
      >
    {/each}
    <button
      type="button"
      class={[
        'rounded-md border px-2 py-0.5',
        isNew ? 'border-verdigris bg-verdigris-wash font-[650]' : 'border-line hover:bg-sunk'
      ]}
      aria-pressed={isNew}
      onclick={() => show(all.length)}>Another…</button
    >
  </nav>
  <form class="space-y-3" onsubmit={keep}>
    <div class="grid grid-cols-2 gap-3 sm:grid-cols-3">
      <label class="text-soft"
        >Carrier<select
          class={FIELD}
          required
          disabled={!isNew}
          value={lane.key.carrier}
          onchange={(e) => change({}, { carrier: e.currentTarget.value })}
          ><option value=""></option>{#each carriers.data ?? [] as c (c.code)}<option value={c.code}
              >{c.name}</option
            >{/each}</select
        ></label
      >
      <label class="text-soft"
        >Its service<input
          class={FIELD}
          required
          maxlength="20"
          disabled={!isNew}
          value={lane.key.service}
          oninput={(e) => change({}, { service: e.currentTarget.value.trim() })}
        /></label
      >
      <label class="text-soft"
        >Level<select
          class={FIELD}
          value={lane.terms.level}
          onchange={(e) => change({ level: e.currentTarget.value as Wish['terms']['level'] })}
          ><option value="STANDARD">standard</option><option value="EXPRESS">express</option></select
        ></label
      >
      <label class="text-soft"
        >Moves on<input
          class={FIELD}
          required
          placeholder="MON-FRI"
          value={lane.terms.workdays}
          oninput={(e) => change({ workdays: e.currentTarget.value.trim().toUpperCase() })}
        /></label
      >
      <label class="text-soft"
        >Workdays under way<input
          class={FIELD}
          type="number"
          min="0"
          max="60"
          required
          value={lane.terms.transitDays}
          oninput={(e) => change({ transitDays: e.currentTarget.valueAsNumber })}
        /></label
      >
      <label class="text-soft"
        >Hazard classes that it carries<input
          class={FIELD}
          placeholder="none"
          value={lane.terms.hazards.join(' ')}
          oninput={(e) => change({ hazards: e.currentTarget.value.split(/[\s,]+/).filter(Boolean) })}
        /></label
      >
    </div>
    <label class="block text-soft"
      >Rates: up to so many grams, for so much {currency}, a line each<textarea
        class="field mt-1 block w-64 font-mono text-xs text-ink"
        rows="5"
        required
        value={rates ?? saysRates(lane.terms.rates, currency)}
        oninput={(e) => (rates = e.currentTarget.value)}></textarea></label
    >
    {#if problem}<p class="text-madder" role="alert">{problem}</p>{/if}
    <p class="flex items-center gap-3">
      <Button main type="submit" disabled={!changed && rates === undefined}
        >{isNew ? 'Add it' : 'Keep'}</Button
      >
      <span class="text-soft">What goes by it already goes as it was planned.</span>
    </p>
  </form>
</Dialog>
