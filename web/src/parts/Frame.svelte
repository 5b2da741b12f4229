<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { onMount } from 'svelte';
  import Router, { router } from 'svelte-spa-router';
  import { tinykeys } from 'tinykeys';
  import { api, get, logOut } from '../api/client';
  import { go } from '../state/address';
  import { free } from '../state/keys';
  import { listen } from '../state/live';
  import { session } from '../state/session.svelte';
  import { routes, viewsFor } from '../views/views';
  import CutOffs from './CutOffs.svelte';
  import Find from './Find.svelte';
  import KeyHelp from './KeyHelp.svelte';
  import Mark from './Mark.svelte';
  import Palette from './Palette.svelte';
  import ToastList from './ToastList.svelte';

  let connected = $state(true);
  let palette = $state(false);
  let help = $state(false);
  let find = $state<Find>();

  const views = $derived(viewsFor(session.me?.role));
  const packer = $derived(session.me?.role === 'PACKER');
  const counts = createQuery(() => ({
    queryKey: ['counts'],
    queryFn: () => get(api.GET('/api/today/counts')),
    enabled: !packer
  }));
  const waiting = $derived<Record<string, number | undefined>>({
    Orders: counts.data?.orders,
    Dispatch: counts.data?.dispatch,
    Backorders: counts.data?.backorders,
    Returns: counts.data?.returns,
    Channels: counts.data?.channels
  });

  onMount(() => listen((yes) => (connected = yes)));
  onMount(() =>
    tinykeys(window, {
      '$mod+KeyK': (event) => {
        event.preventDefault();
        palette = !palette;
      },
      '/': (event) => {
        if (!free(event) || packer) return;
        event.preventDefault();
        find?.focus();
      },
      'Shift+?': (event) => {
        if (free(event)) help = true;
      },
      ...Object.fromEntries(
        viewsFor(session.me?.role).map((v) => [
          `g ${v.key}`,
          (event: KeyboardEvent) => {
            if (free(event)) go(v.path);
          }
        ])
      )
    })
  );
</script>

<div class="flex h-full flex-col">
  <header class="flex h-11 flex-none items-center gap-4 border-b border-line px-4">
    <a href="#/" class="flex w-[120px] flex-none items-center gap-2 text-base font-[650]"
      ><Mark /> Ordinator</a
    >
    {#if !packer}<Find bind:this={find} />{/if}
    <div class="ms-auto flex min-w-0 items-center gap-4">
      <CutOffs />
      {#if !connected}
        <span class="text-madder" role="status">not connected</span>
      {/if}
      <button class="text-soft hover:text-ink" onclick={() => (palette = true)} title="Commands (Ctrl K)">
        {session.me?.username}
      </button>
      <button class="whitespace-nowrap text-soft hover:text-ink" onclick={logOut}>log out</button>
    </div>
  </header>
  <div class="flex min-h-0 flex-1">
    <nav class="w-[136px] flex-none border-r border-line py-3" aria-label="Views">
      {#each ['Work', 'Shape'] as group (group)}
        {@const inGroup = views.filter((v) => v.group === group)}
        {#if inGroup.length}
          <h2 class="mx-4 mt-3.5 mb-1 text-[0.7rem] font-semibold text-soft first:mt-0">{group}</h2>
          {#each inGroup as view (view.path)}
            {@const here = router.location.startsWith(view.path)}
            <a
              href="#{view.path}"
              aria-current={here ? 'page' : undefined}
              title="g {view.key}"
              class={[
                'flex justify-between border-l-[3px] py-1 ps-3.5 pe-3',
                here ? 'border-verdigris bg-sunk font-[650]' : 'border-transparent hover:bg-sunk'
              ]}
              >{view.name}
              {#if waiting[view.name]}<span class="font-[650] text-madder"
                  >{(waiting[view.name] ?? 0) > 999 ? '999+' : waiting[view.name]}</span
                >{/if}
            </a>
          {/each}
        {/if}
      {/each}
    </nav>
    <main class="flex min-w-0 flex-1 flex-col overflow-hidden"><Router {routes} /></main>
  </div>
</div>
<Palette bind:open={palette} onhelp={() => (help = true)} />
<KeyHelp bind:open={help} />
<ToastList />
