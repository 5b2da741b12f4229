<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, Problem, upload } from '../api/client';
  import { session } from '../state/session.svelte';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';
  import FileButton from './FileButton.svelte';
  import { day, plural } from './format';

  interface Props {
    open: boolean;
    /** the one that is asked for; else the first that is known */
    currency?: string;
  }
  let { open = $bindable(), currency: asked = '' }: Props = $props();

  const client = useQueryClient();
  let chosen = $state('');
  let on = $state(new Date().toISOString().slice(0, 10));
  let rate = $state('');
  let problem = $state('');
  /** what was refused because it is far from the last rate; done again if a person says that it is right */
  let leap = $state<(sure: boolean) => Promise<unknown>>();

  const latest = createQuery(() => ({
    queryKey: ['rates'],
    queryFn: () => get(api.GET('/api/rates')),
    enabled: open
  }));
  const known = $derived((latest.data ?? []).map((r) => r.currency));
  const currency = $derived((chosen || asked || known[0] || '').toUpperCase());
  const days = createQuery(() => ({
    queryKey: ['rates', currency],
    queryFn: () => get(api.GET('/api/rates/{currency}', { params: { path: { currency } } })),
    enabled: open && /^[A-Z]{3}$/.test(currency)
  }));

  async function attempt(what: (sure: boolean) => Promise<unknown>, sure = false) {
    problem = '';
    leap = undefined;
    try {
      await what(sure);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
      if (error instanceof Problem && error.field === 'leap') leap = what;
    }
  }
  const say = (event: SubmitEvent) => {
    event.preventDefault();
    const params = { path: { currency, day: on } };
    void attempt(async (sure) => {
      await get(api.PUT('/api/rates/{currency}/{day}', { params, body: { rate: Number(rate), sure } }));
      rate = '';
    });
  };
  const read = (file: File) =>
    void attempt(async (sure) => {
      const taken = await upload<{ rates: number }>(`/api/rates?sure=${sure}`, file);
      toasts.say(`${plural(taken.rates, 'rate')} read; orders that waited for them go on`);
    });
  const takeBack = (on: string) =>
    void attempt(() =>
      get(api.DELETE('/api/rates/{currency}/{day}', { params: { path: { currency, day: on } } }))
    );
</script>

<Dialog bind:open title="Exchange rates" wide>
  <form class="flex flex-wrap items-end gap-3" onsubmit={say}>
    <label class="text-soft"
      >Currency<input
        class="field mt-1 block w-20 font-mono uppercase"
        list="known-currencies"
        value={currency}
        oninput={(event) => (chosen = event.currentTarget.value)}
        pattern={'[A-Za-z]{3}'}
        required
      /></label
    >
    <datalist id="known-currencies"
      >{#each known as c (c)}<option value={c}></option>{/each}</datalist
    >
    <label class="text-soft">Day<input class="field mt-1 block" type="date" bind:value={on} required /></label
    >
    <label class="text-soft"
      >One {currency || 'of it'} is worth, in {session.base}<input
        class="field mt-1 block w-36 text-right"
        inputmode="decimal"
        pattern="\d+(\.\d+)?"
        bind:value={rate}
        required
      /></label
    >
    <Button main type="submit">Save</Button>
    <span class="ms-auto"
      ><FileButton
        text="Read a file…"
        label="A file of rates, CSV or XLSX"
        accept=".csv,.xlsx,text/csv"
        quiet
        onfile={read}
      /></span
    >
  </form>
  <p class="text-soft">
    A file has the columns currency, day and rate. What is corrected counts for orders that come from now on;
    others keep the rate that they were reckoned with.
  </p>
  <p class="min-h-5 text-madder" role="alert">
    {problem}
    {#if leap}{@const again = leap}<Button onclick={() => void attempt(again, true)}>It is right</Button>{/if}
  </p>
  {#if days.data?.length}
    <div class="max-h-64 overflow-y-auto border-t border-line">
      <table class="w-full">
        <tbody>
          {#each days.data as r (r.day)}
            <tr class="border-b border-line">
              <td class="py-1">{day(r.day)}</td>
              <td class="text-right font-mono text-xs">{r.rate}</td>
              <td class="truncate ps-6 text-soft">{r.source}</td>
              <td class="text-right"
                >{#if r.source !== 'published rates'}<button
                    class="text-soft hover:text-madder hover:underline"
                    aria-label="Delete the rate of {day(r.day)}"
                    onclick={() => takeBack(r.day)}>Delete</button
                  >{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {:else if days.data}
    <p class="text-soft">No rate of {currency} is known: its orders wait until one is.</p>
  {/if}
</Dialog>
