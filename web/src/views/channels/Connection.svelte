<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { count } from '../../parts/format';
  import { param, setParams } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import Callers from './Callers.svelte';
  import Carriers from './Carriers.svelte';
  import Connect from './Connect.svelte';
  import Deliveries from './Deliveries.svelte';
  import Exchanges from './Exchanges.svelte';
  import FeedTab from './FeedTab.svelte';
  import Files from './Files.svelte';
  import type { Channel } from './health';
  import { patchChannel } from './patch';
  import MatchTable from './MatchTable.svelte';
  import Publishing from './Publishing.svelte';
  import Refused from './Refused.svelte';
  import SpeakDialog from './SpeakDialog.svelte';
  import Terms from './Terms.svelte';
  import Wordings from './Wordings.svelte';

  let { channel: c }: { channel: Channel } = $props();

  const client = useQueryClient();
  const machine = $derived(c.kind === 'MACHINE');
  const told = $derived(c.baseUrl !== '' || machine);
  const tabs = $derived<[string, string][]>([
    ...(c.kind === 'SPREADSHEET' ? [['files', 'Files'] as [string, string]] : []),
    ...(machine ? [['callers', 'Tokens and webhooks'] as [string, string]] : []),
    ['listings', `Match table ${count(c.listings)}`],
    ...(c.takesListings ? [['offers', 'Offer items'] as [string, string]] : []),
    ...(told ? [['feed', 'Stock feed'] as [string, string]] : []),
    ['refused', `Not read ${c.refused || ''}`],
    ['wordings', 'Wordings'],
    ['carriers', 'Carriers'],
    ['terms', 'Terms'],
    ['exchanges', 'What was said']
  ]);
  const tab = $derived(param('tab') || tabs[0]?.[0]);

  let asking = $state(false);
  // one change at a time: the next one needs the version that this one makes
  let busy = $state(false);
  async function run(what: Promise<unknown>, done: string) {
    busy = true;
    try {
      await what;
      toasts.say(done);
    } catch (error) {
      toasts.fail(error);
    } finally {
      await client.invalidateQueries();
      busy = false;
    }
  }
  const patch = (change: Parameters<typeof patchChannel>[1], done: string) =>
    run(patchChannel(c, change), done);
  async function speak(mails: boolean, afterwards: boolean) {
    await patch({ writesBack: true, mailsSent: mails, mailsWaiting: mails }, 'Told what happens from now on');
    if (!afterwards) return;
    await run(
      get(api.POST('/api/connecting/{id}/told-afterwards', { params: { path: { id: c.id } } })),
      'Told of what left before, too'
    );
  }
</script>

<section class="card mt-3 mb-4 flex min-h-0 flex-1 flex-col" aria-label={c.name}>
  <header class="flex items-baseline gap-4.5 border-b border-line px-4 pt-2">
    <h2 class={['truncate', c.setup && 'pb-1.5']}>{c.setup ? `Connecting ${c.name}` : c.name}</h2>
    {#if !c.setup}<nav class="flex gap-4.5" aria-label="Parts of {c.name}">
        {#each tabs as [key, name] (key)}
          <button
            class={[
              'pb-1.5 whitespace-nowrap',
              tab === key ? 'border-b-2 border-verdigris font-[650]' : 'text-soft hover:text-ink'
            ]}
            aria-pressed={tab === key}
            onclick={() => setParams({ tab: key ?? '' })}>{name}</button
          >
        {/each}
      </nav>{/if}
    {#if session.mayChange && told && !c.setup}
      <span class="ms-auto flex gap-1.5">
        {#if !machine}<Button
            small
            main
            disabled={busy}
            onclick={() =>
              void run(
                get(api.POST('/api/channels/{id}/pull', { params: { path: { id: c.id } } })),
                'Pulling now'
              )}>Pull now</Button
          >{/if}
        <Button
          small
          disabled={busy}
          onclick={() =>
            void patch({ paused: !c.paused }, c.paused ? 'Goes on' : 'Paused: no orders are taken')}
          >{c.paused ? 'Go on' : 'Pause'}</Button
        >
        <Button
          small
          disabled={busy}
          onclick={() =>
            c.writesBack ? void patch({ writesBack: false }, 'Listens only now') : (asking = true)}
          >{c.writesBack ? 'Listen only' : 'Tell it…'}</Button
        >
      </span>
    {/if}
  </header>
  {#if c.setup}<Connect channel={c} />
  {:else}
    <div class="min-h-0 flex-1 overflow-y-auto px-4 py-2.5">
      {#if tab === 'wordings'}<Wordings channelId={c.id} />
      {:else if tab === 'refused'}<Refused channelId={c.id} />
      {:else if tab === 'files'}<Files channelId={c.id} />
      {:else if tab === 'offers'}<Publishing channel={c} />
      {:else if tab === 'feed'}<FeedTab channel={c} />
      {:else if tab === 'carriers'}<Carriers channelId={c.id} />
      {:else if tab === 'callers'}<Callers channelId={c.id} />
      {:else if tab === 'terms'}<Terms channel={c} />
      {:else if tab === 'exchanges' && machine}<Deliveries channelId={c.id} />
      {:else if tab === 'exchanges'}<Exchanges channelId={c.id} />
      {:else}<MatchTable channelId={c.id} />{/if}
    </div>
  {/if}
</section>
{#if asking}
  <SpeakDialog
    bind:open={() => asking, (yes) => (asking = yes)}
    channel={c}
    onspeak={(mails, afterwards) => void speak(mails, afterwards)}
  />
{/if}
