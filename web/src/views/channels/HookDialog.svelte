<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import { HOOK_KINDS } from './hooks';
  import SecretOnce from './SecretOnce.svelte';

  interface Props {
    open: boolean;
    channelId: number;
  }
  let { open = $bindable(), channelId }: Props = $props();

  const client = useQueryClient();
  let address = $state('');
  let kinds = $state<Schemas['HookBookHookCard']['kinds']>([
    'ORDER_SHIPPED',
    'ORDER_DELIVERED',
    'ORDER_CANCELLED'
  ]);
  let problem = $state('');
  let secret = $state('');

  async function add(event: SubmitEvent) {
    event.preventDefault();
    try {
      const made = await get(
        api.POST('/api/channels/{channel}/hooks', {
          params: { path: { channel: channelId } },
          body: { address, kinds }
        })
      );
      secret = made.secret;
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="An address to be told">
  {#if secret}
    <SecretOnce {secret} what="With this each message is signed (Standard Webhooks, HMAC-SHA256)." />
    <Button main onclick={() => (open = false)}>Done</Button>
  {:else}
    <form onsubmit={add} class="space-y-3">
      <label class="block text-soft"
        >Address
        <input
          class="field mt-1 block w-full font-mono text-xs"
          type="url"
          bind:value={address}
          maxlength="400"
          required
          placeholder="https://"
        /></label
      >
      <fieldset>
        <legend class="mb-1 text-soft">It is told when</legend>
        {#each HOOK_KINDS as [kind, type, words] (kind)}
          <label class="flex items-center gap-1.5 py-0.5"
            ><input
              type="checkbox"
              class="size-3.5 rounded-sm border-faint"
              value={kind}
              bind:group={kinds}
            />{words} <code class="font-mono text-xs text-soft">{type}</code></label
          >
        {/each}
      </fieldset>
      {#if problem}<p class="text-madder" role="alert">{problem}</p>{/if}
      <Button main type="submit">Add it</Button>
    </form>
  {/if}
</Dialog>
