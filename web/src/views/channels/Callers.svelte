<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../../api/client';
  import Button from '../../parts/Button.svelte';
  import { ago, count, fullMoment, word } from '../../parts/format';
  import { useDoing } from '../../state/doing';
  import { session } from '../../state/session.svelte';
  import HookDialog from './HookDialog.svelte';
  import { typeOf } from './hooks';
  import TokenDialog from './TokenDialog.svelte';

  let { channelId }: { channelId: number } = $props();

  const path = $derived({ channel: channelId });
  const tokens = createQuery(() => ({
    queryKey: ['channels', 'tokens', channelId],
    queryFn: () => get(api.GET('/api/channels/{channel}/tokens', { params: { path } }))
  }));
  const hooks = createQuery(() => ({
    queryKey: ['channels', 'hooks', channelId],
    queryFn: () => get(api.GET('/api/channels/{channel}/hooks', { params: { path } }))
  }));
  const run = useDoing();
  let making = $state(false);
  let adding = $state(false);

  const revoke = (token: number) =>
    run(
      get(
        api.POST('/api/channels/{channel}/tokens/{token}/revoke', { params: { path: { ...path, token } } })
      ),
      'It lets nobody in any more'
    );
  const stop = (hook: number) =>
    run(
      get(api.POST('/api/channels/{channel}/hooks/{hook}/stop', { params: { path: { ...path, hook } } })),
      'Not told any more',
      () => void start(hook)
    );
  const start = (hook: number) =>
    run(
      get(api.POST('/api/channels/{channel}/hooks/{hook}/start', { params: { path: { ...path, hook } } })),
      'Told again from now on'
    );
</script>

<section aria-labelledby="tokens">
  <header class="mb-1 flex items-center gap-3">
    <h3 id="tokens" class="font-[650]">Tokens</h3>
    <a class="text-soft hover:underline" href="/api/openapi.json" target="_blank" rel="noopener"
      >what may be called (OpenAPI)</a
    >
    {#if session.mayChange}<span class="ms-auto"
        ><Button small onclick={() => (making = true)}>Make a token…</Button></span
      >{/if}
  </header>
  <table class="w-full">
    <thead
      ><tr
        ><th class="py-1 pe-4">For</th><th class="pe-4">Ends with</th><th class="pe-4">May</th><th
          class="pe-4">Made</th
        ><th class="pe-4">Last used</th><th><span class="sr-only">Actions</span></th></tr
      ></thead
    >
    <tbody>
      {#each tokens.data ?? [] as t (t.id)}
        <tr class={['h-8 border-t border-line', t.revokedAt && 'text-soft']}>
          <td class="pe-4 font-[550]">{t.name}</td>
          <td class="pe-4 font-mono text-xs">…{t.hint}</td>
          <td class="pe-4">{t.scopes.map((s) => word(s)).join(', ')}</td>
          <td class="pe-4" title={fullMoment(t.createdAt)}>{ago(t.createdAt)} by {t.createdBy}</td>
          <td class="pe-4" title={t.lastUsedAt ? fullMoment(t.lastUsedAt) : ''}
            >{t.lastUsedAt ? ago(t.lastUsedAt) : 'never'}</td
          >
          <td class="text-right"
            >{#if t.revokedAt}✕ revoked {ago(t.revokedAt)}{:else if session.mayChange}<Button
                small
                onclick={() => void revoke(t.id)}>Revoke</Button
              >{/if}</td
          >
        </tr>
      {:else}
        <tr
          ><td colspan="6" class="py-2 text-soft"
            >{tokens.isPending
              ? 'Reading…'
              : 'No token yet: nobody can call. Each system gets one of its own, so that one can be revoked alone.'}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
</section>

<section class="mt-6" aria-labelledby="hooks">
  <header class="mb-1 flex items-center gap-3">
    <h3 id="hooks" class="font-[650]">Webhooks</h3>
    {#if session.mayChange}<span class="ms-auto"
        ><Button small onclick={() => (adding = true)}>Add an address…</Button></span
      >{/if}
  </header>
  <table class="w-full">
    <thead
      ><tr
        ><th class="py-1 pe-4">Address</th><th class="pe-4">Told of</th><th class="pe-4">Last taken</th><th
          class="pe-4 text-right">To tell</th
        ><th class="pe-4 text-right">Given up</th><th><span class="sr-only">Actions</span></th></tr
      ></thead
    >
    <tbody>
      {#each hooks.data ?? [] as h (h.id)}
        <tr class={['h-8 border-t border-line', !h.active && 'text-soft']}>
          <td class="pe-4 font-mono text-xs">{h.address}</td>
          <td class="pe-4">{h.kinds.map(typeOf).join(', ')}</td>
          <td class="pe-4" title={h.lastToldAt ? fullMoment(h.lastToldAt) : ''}
            >{h.lastToldAt ? ago(h.lastToldAt) : 'never'}</td
          >
          <td class="pe-4 text-right">{count(h.waiting)}</td>
          <td class={['pe-4 text-right', h.givenUp && 'text-madder']}
            >{h.givenUp ? '✕ ' : ''}{count(h.givenUp)}</td
          >
          <td class="text-right whitespace-nowrap">
            {#if h.stopped}<span class="me-2 text-madder">✕ stopped: {h.stopped}</span>{/if}
            {#if session.mayChange}<Button small onclick={() => void (h.active ? stop(h.id) : start(h.id))}
                >{h.active ? 'Stop' : 'Start again'}</Button
              >{/if}
          </td>
        </tr>
      {:else}
        <tr
          ><td colspan="6" class="py-2 text-soft"
            >{hooks.isPending ? 'Reading…' : 'No address is told anything; the system can still ask.'}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
</section>
{#if making}<TokenDialog bind:open={() => making, (yes) => (making = yes)} {channelId} />{/if}
{#if adding}<HookDialog bind:open={() => adding, (yes) => (adding = yes)} {channelId} />{/if}
