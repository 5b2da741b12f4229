<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { api, get, type Schemas } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { ago, count, fullMoment, plural, word } from '../../parts/format';
  import RefusedDialog from '../../parts/RefusedDialog.svelte';
  import { param, setParams } from '../../state/address';
  import { session } from '../../state/session.svelte';
  import { toasts } from '../../state/toasts.svelte';
  import MatchTable from './MatchTable.svelte';
  import Wordings from './Wordings.svelte';

  type Channel = Schemas['ChannelsChannelCard'];
  const client = useQueryClient();
  const channels = createQuery(() => ({
    queryKey: ['channels'],
    queryFn: () => get(api.GET('/api/channels'))
  }));
  const refused = createQuery(() => ({
    queryKey: ['channels', 'refused'],
    queryFn: () => get(api.GET('/api/channels/refused'))
  }));
  let opened = $state<number>();
  const tab = $derived(param('tab') || 'listings');
  const healthy = $derived(
    (channels.data ?? []).filter((c) => !c.lastError && !c.paused && !c.givenUp).length
  );

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
  const patch = (
    c: Channel,
    change: { paused?: boolean; listenOnly?: boolean; intervalSeconds?: number },
    done: string
  ) =>
    run(
      get(
        api.PATCH('/api/channels/{id}', {
          params: { path: { id: c.id } },
          body: {
            paused: change.paused ?? null,
            listenOnly: change.listenOnly ?? null,
            intervalSeconds: change.intervalSeconds ?? null,
            version: c.version
          }
        })
      ),
      done
    );
  const intake = (c: Channel) =>
    c.paused ? 'paused' : c.lastError ? 'failing' : c.lastSuccessAt ? 'well' : 'not tried yet';
  const writeBack = (c: Channel) =>
    c.listenOnly ? 'listen-only' : c.givenUp ? 'failing' : c.untold ? `${c.untold} to tell` : 'well';
</script>

<div class="flex min-h-0 flex-1 flex-col overflow-y-auto px-4 pt-3 pb-4">
  <h1>
    {#if channels.data?.length === 0}No channels yet
    {:else if channels.data}{healthy === channels.data.length
        ? `All well: ${plural(healthy, 'connection')}`
        : `${channels.data.length - healthy} of ${plural(channels.data.length, 'connection')} need a look`}
    {:else}Channels{/if}
  </h1>
  {#each channels.data ?? [] as c (c.id)}
    <section class="card mt-3 grid grid-cols-[1.2fr_1fr_1fr_auto] gap-4 px-4 py-3" aria-label={c.name}>
      <div>
        <h2>{c.name}</h2>
        <p class="text-soft">{c.baseUrl}</p>
        <p class="text-soft">
          {plural(c.orders, 'order')} · {c.currency} · approved {word(c.approval)} · matched by {c.matchBy}
        </p>
      </div>
      <div>
        <h3 class="text-xs font-semibold text-soft">Intake</h3>
        <p class={c.lastError ? 'text-madder' : ''}>
          <span aria-hidden="true">{c.lastError ? '✕' : c.paused ? '‖' : '✓'}</span>
          {intake(c)}
          {#if c.lastPullAt}<span class="text-soft" title={fullMoment(c.lastPullAt)}
              >· pulled {ago(c.lastPullAt)}</span
            >{/if}
        </p>
        {#if c.lastError}<p class="text-madder">{c.lastError}</p>
        {:else}<p class="text-soft">
            every {c.intervalSeconds} s · the last pull brought {count(c.lastTaken)}
          </p>{/if}
      </div>
      <div>
        <h3 class="text-xs font-semibold text-soft">Write-back</h3>
        <p class={c.givenUp ? 'text-madder' : ''}>
          <span aria-hidden="true">{c.listenOnly ? '‖' : c.givenUp ? '✕' : '✓'}</span>
          {writeBack(c)}
          {#if c.lastToldAt}<span class="text-soft" title={fullMoment(c.lastToldAt)}
              >· told {ago(c.lastToldAt)}</span
            >{/if}
        </p>
        {#if c.listenOnly}<p class="text-soft">nothing is written to this channel</p>{/if}
      </div>
      {#if session.mayChange}
        <div class="flex flex-col items-stretch gap-1.5">
          <Button
            small
            main
            disabled={busy}
            onclick={() =>
              void run(
                get(api.POST('/api/channels/{id}/pull', { params: { path: { id: c.id } } })),
                'Pulling now'
              )}>Pull now</Button
          >
          <Button
            small
            disabled={busy}
            onclick={() =>
              void patch(c, { paused: !c.paused }, c.paused ? 'Goes on' : 'Paused: no orders are fetched')}
            >{c.paused ? 'Go on' : 'Pause'}</Button
          >
          <Button
            small
            disabled={busy}
            onclick={() =>
              void patch(
                c,
                { listenOnly: !c.listenOnly },
                c.listenOnly ? 'Told what happens again' : 'Listens only now'
              )}>{c.listenOnly ? 'Speak again' : 'Listen only'}</Button
          >
        </div>
      {/if}
      <nav
        class="col-span-4 -mx-4 flex gap-4.5 border-t border-line px-4 pt-2"
        aria-label="Parts of {c.name}"
      >
        {#each [['listings', `Match table ${count(c.listings)}`], ['refused', `Could not be read ${c.refused || ''}`], ['wordings', 'Service wordings']] as [key, name] (key)}
          <button
            class={tab === key ? 'border-b-2 border-verdigris font-[650]' : 'text-soft hover:text-ink'}
            aria-pressed={tab === key}
            onclick={() => setParams({ tab: key ?? '' })}>{name}</button
          >
        {/each}
        {#if c.unmatched}<span class="ms-auto font-semibold text-madder"
            >{plural(c.unmatched, 'listing')} unmatched</span
          >{/if}
      </nav>
      <div class="col-span-4">
        {#if tab === 'wordings'}<Wordings channelId={c.id} />
        {:else if tab === 'refused'}
          <table class="w-full">
            <tbody>
              {#each (refused.data ?? []).filter((r) => r.channel === c.name) as r (r.id)}
                <tr class="h-[30px] border-t border-line first:border-0">
                  <td class="pe-2 font-mono text-xs">{r.externalId || '—'}</td>
                  <td class="pe-2 text-madder">{r.place} {r.problem}</td>
                  <td class="pe-2 text-soft" title={fullMoment(r.receivedAt)}>{ago(r.receivedAt)}</td>
                  <td class="text-right"
                    >{#if session.mayChange}<Button small onclick={() => (opened = r.id)}>Correct</Button
                      >{/if}</td
                  >
                </tr>
              {:else}
                <tr
                  ><td class="py-2 text-soft"
                    >Every message could be read. One that can’t be is kept here, and can be corrected.</td
                  ></tr
                >
              {/each}
            </tbody>
          </table>
        {:else}<MatchTable channelId={c.id} />{/if}
      </div>
    </section>
  {:else}
    <p class="mt-3 text-soft">
      {channels.isPending
        ? 'Reading…'
        : channels.isError
          ? channels.error.message
          : 'No channel is connected. The demo world brings one: ./ordinator demo.'}
    </p>
  {/each}
</div>
{#if opened !== undefined}
  <RefusedDialog
    bind:open={() => opened !== undefined, (yes) => yes || (opened = undefined)}
    refusedId={opened}
  />
{/if}
