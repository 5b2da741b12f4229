<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { untrack } from 'svelte';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { plural } from '../../parts/format';
  import { toasts } from '../../state/toasts.svelte';
  import type { Channel } from './health';

  interface Props {
    channel: Channel;
    profile: NonNullable<Schemas['ConnectingKind']['profile']>;
  }
  let { channel: c, profile }: Props = $props();

  const client = useQueryClient();
  let baseUrl = $state(untrack(() => c.baseUrl));
  let clientId = $state('');
  let secret = $state('');
  let webhookSecret = $state('');
  let problem = $state('');
  let busy = $state(false);

  async function test(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    problem = '';
    try {
      const found = await get(
        api.PUT('/api/connecting/{id}/access', {
          params: { path: { id: c.id } },
          body: { baseUrl, clientId, secret, webhookSecret }
        })
      );
      toasts.say(
        `It lets us in: ${plural(found.listings, 'listing')}` +
          (found.first ? `, first order ${found.first}` : ', no orders')
      );
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    } finally {
      busy = false;
    }
  }
</script>

<form onsubmit={test} class="max-w-lg space-y-3">
  <label class="block text-soft"
    >Address
    <input
      class="field mt-1 block w-full font-mono"
      bind:value={baseUrl}
      placeholder="https://"
      required
      autocomplete="off"
    />
  </label>
  {#if profile.needsClientId}
    <label class="block text-soft"
      >Our name there
      <input class="field mt-1 block w-full" bind:value={clientId} required autocomplete="off" />
    </label>
  {/if}
  <label class="block text-soft"
    >Secret or key
    <input
      class="field mt-1 block w-full font-mono"
      type="password"
      bind:value={secret}
      autocomplete="new-password"
      placeholder={c.baseUrl ? 'kept as it was, unless you type another' : ''}
      required={!c.baseUrl}
    />
  </label>
  {#if profile.signsWebhooks}
    <label class="block text-soft"
      >Secret with which it signs what it sends
      <input
        class="field mt-1 block w-full font-mono"
        type="password"
        bind:value={webhookSecret}
        autocomplete="new-password"
      />
      <span class="text-xs">It sends to {location.origin}/hooks/channels/{c.code}</span>
    </label>
  {/if}
  <p class="text-xs text-soft">Secrets are stored encrypted, and are never shown again.</p>
  <p class="min-h-5 text-madder" role="alert">{problem}</p>
  <Button main type="submit" disabled={busy}>{busy ? 'Trying…' : 'Try it'}</Button>
</form>
