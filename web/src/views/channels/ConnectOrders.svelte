<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { word } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';
  import type { Channel } from './health';

  interface Props {
    channel: Channel;
    profile: NonNullable<Schemas['ConnectingKind']['profile']>;
  }
  let { channel: c, profile }: Props = $props();

  type Payment = Channel['terms']['payments'][number];
  const PAYMENTS: Payment[] = ['UNPAID', 'AUTHORISED', 'PAID', 'ON_DELIVERY'];
  const client = useQueryClient();
  const terms = untrack(() => c.terms);
  let payments = $state<Payment[]>([...terms.payments]);
  let states = $state<string[]>([...terms.states]);
  let sites = $state<string[]>([...terms.sites]);
  let since = $state(terms.since ?? '');

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    try {
      await get(
        api.PUT('/api/connecting/{id}/orders', {
          params: { path: { id: c.id } },
          body: { payments, states, sites, since: since || null }
        })
      );
      await client.invalidateQueries();
    } catch (error) {
      toasts.fail(error);
    }
  }
</script>

{#snippet choices(legend: string, all: [string, string][], chosen: string[], set: (now: string[]) => void)}
  <fieldset>
    <legend class="mb-1 text-soft">{legend} <span class="text-xs">(none ticked: all)</span></legend>
    <div class="flex flex-wrap gap-x-5">
      {#each all as [key, name] (key)}
        <label class="flex items-center gap-1.5 py-0.5"
          ><input
            type="checkbox"
            class="size-3.5 rounded-sm border-faint"
            checked={chosen.includes(key)}
            onchange={(event) =>
              set(event.currentTarget.checked ? [...chosen, key] : chosen.filter((k) => k !== key))}
          />{name}</label
        >
      {/each}
    </div>
  </fieldset>
{/snippet}

<form onsubmit={keep} class="max-w-2xl space-y-4">
  {#if Object.keys(profile.states).length}
    {@render choices(
      'Orders in these states',
      Object.entries(profile.states).map(([k, v]) => [k, `${k}: ${v}`]),
      states,
      (now) => (states = now)
    )}
  {/if}
  {#if profile.sites.length}
    {@render choices(
      'From these country sites',
      profile.sites.map((s) => [s, s]),
      sites,
      (now) => (sites = now)
    )}
  {/if}
  {@render choices(
    'With these payment states',
    PAYMENTS.map((p) => [p, word(p)]),
    payments,
    (now) => (payments = now as Payment[])
  )}
  <label class="block text-soft"
    >Placed since <span class="text-xs">(empty: whenever)</span>
    <input class="field mt-1 block w-40" type="date" bind:value={since} />
  </label>
  <Button main type="submit">Keep that</Button>
</form>
