<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../api/client';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';
  import { day, plural } from './format';

  interface Props {
    open: boolean;
    currency: string;
  }
  let { open = $bindable(), currency }: Props = $props();

  const client = useQueryClient();
  let text = $state('');
  let problem = $state('');
  const latest = createQuery(() => ({
    queryKey: ['rates'],
    queryFn: () => get(api.GET('/api/rates')),
    enabled: open
  }));

  async function read(event: SubmitEvent) {
    event.preventDefault();
    try {
      const result = await get(
        api.POST('/api/rates', {
          body: text,
          bodySerializer: (body: string) => body,
          headers: { 'Content-Type': 'text/csv' }
        })
      );
      open = false;
      toasts.say(`${plural(result.rates, 'rate')} read; the orders go on`);
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="What is one {currency} worth?" wide>
  <form onsubmit={read} class="space-y-3">
    {#if latest.data?.length}
      <p class="text-soft">
        Known: {latest.data.map((r) => `${r.currency} ${r.rate} (${day(r.day)})`).join(' · ')}
      </p>
    {/if}
    <label class="block text-soft"
      >Rates as CSV: currency, day, and how much of our currency one unit of it is worth
      <textarea
        class="field mt-1 block h-40 w-full font-mono text-xs"
        bind:value={text}
        placeholder={`currency,day,rate\n${currency},2026-11-24,1.0640`}
        required
        spellcheck="false"></textarea>
    </label>
    <input
      type="file"
      accept=".csv,text/csv"
      aria-label="A CSV file of rates"
      onchange={async (event) => (text = (await event.currentTarget.files?.[0]?.text()) ?? text)}
    />
    <p class="min-h-5 text-madder" role="alert">{problem}</p>
    <Button main type="submit">Read the rates</Button>
  </form>
</Dialog>
