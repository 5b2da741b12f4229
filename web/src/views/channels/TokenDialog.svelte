<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import Dialog from '../../parts/Dialog.svelte';
  import SecretOnce from './SecretOnce.svelte';

  interface Props {
    open: boolean;
    channelId: number;
  }
  let { open = $bindable(), channelId }: Props = $props();

  type Scope = Schemas['MachineTokensCard']['scopes'][number];
  const SCOPES: [Scope, string][] = [
    ['ORDERS_WRITE', 'create, change and cancel orders'],
    ['ORDERS_READ', 'ask where its orders stand'],
    ['AVAILABILITY', 'ask what can be had']
  ];
  const client = useQueryClient();
  let name = $state('');
  let scopes = $state<Scope[]>(['ORDERS_WRITE', 'ORDERS_READ', 'AVAILABILITY']);
  let problem = $state('');
  let secret = $state('');

  async function make(event: SubmitEvent) {
    event.preventDefault();
    try {
      const made = await get(
        api.POST('/api/channels/{channel}/tokens', {
          params: { path: { channel: channelId } },
          body: { name, scopes }
        })
      );
      secret = made.secret;
      await client.invalidateQueries();
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<Dialog bind:open title="A token for a system that calls us">
  {#if secret}
    <SecretOnce {secret} what="Give it to {name}." />
    <Button main onclick={() => (open = false)}>Done</Button>
  {:else}
    <form onsubmit={make} class="space-y-3">
      <label class="block text-soft"
        >Who will use it?
        <input
          class="field mt-1 block w-full"
          bind:value={name}
          maxlength="80"
          required
          placeholder="The till at the fair"
        /></label
      >
      <fieldset>
        <legend class="mb-1 text-soft">It may</legend>
        {#each SCOPES as [scope, words] (scope)}
          <label class="flex items-center gap-1.5 py-0.5"
            ><input
              type="checkbox"
              class="size-3.5 rounded-sm border-faint"
              value={scope}
              bind:group={scopes}
            />{words}</label
          >
        {/each}
      </fieldset>
      {#if problem}<p class="text-madder" role="alert">{problem}</p>{/if}
      <Button main type="submit">Make the token</Button>
    </form>
  {/if}
</Dialog>
