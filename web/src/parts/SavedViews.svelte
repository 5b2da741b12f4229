<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query';
  import { replace, router } from 'svelte-spa-router';
  import { api, get } from '../api/client';
  import { session } from '../state/session.svelte';
  import { toasts } from '../state/toasts.svelte';
  import Button from './Button.svelte';
  import Dialog from './Dialog.svelte';

  interface Props {
    view: 'stock' | 'orders' | 'backorders';
    /** where the list is */
    path: string;
  }
  let { view, path }: Props = $props();

  const client = useQueryClient();
  const saved = createQuery(() => ({
    queryKey: ['views', view],
    queryFn: () => get(api.GET('/api/views/{view}', { params: { path: { view } } }))
  }));
  const query = $derived(router.querystring ?? '');
  const here = $derived(saved.data?.find((v) => v.query === query));
  let naming = $state(false);
  let name = $state('');
  let problem = $state('');

  async function change(what: Promise<unknown>, said: string) {
    problem = '';
    try {
      await what;
      naming = false;
      toasts.say(said);
      await client.invalidateQueries({ queryKey: ['views', view] });
    } catch (error) {
      problem = error instanceof Error ? error.message : String(error);
    }
  }
  const keep = (called: string, what: string) =>
    get(
      api.PUT('/api/views/{view}/{name}', { params: { path: { view, name: called } }, body: { query: what } })
    );
  const forget = (called: string) =>
    get(api.DELETE('/api/views/{view}/{name}', { params: { path: { view, name: called } } }));
</script>

<span class="flex items-center gap-1">
  {#if saved.data?.length}
    <select
      class="field h-7 max-w-44 py-0 ps-2 pe-7"
      aria-label="Saved views"
      value={here?.name ?? ''}
      onchange={(event) => {
        const chosen = saved.data?.find((v) => v.name === event.currentTarget.value);
        void replace(chosen?.query ? `${path}?${chosen.query}` : path);
      }}
      ><option value="">no saved view</option>{#each saved.data as v (v.name)}<option value={v.name}
          >{v.name}</option
        >{/each}</select
    >
  {/if}
  {#if session.mayChange && here}
    <Button small onclick={() => change(forget(here.name), `‘${here.name}’ is forgotten`)}>Forget it</Button>
  {:else if session.mayChange && query}
    <Button
      small
      onclick={() => {
        name = '';
        naming = true;
      }}>Keep this view…</Button
    >
  {/if}
</span>
{#if naming}
  <Dialog bind:open={naming} title="Keep this view">
    <form
      class="space-y-3"
      onsubmit={(event) => {
        event.preventDefault();
        void change(keep(name.trim(), query), `‘${name.trim()}’ is kept`);
      }}
    >
      <label class="block text-soft"
        >Its name; everybody sees it<input
          class="field mt-1 block w-full"
          maxlength="60"
          required
          bind:value={name}
          data-autofocus
        /></label
      >
      <p class="min-h-5 text-madder" role="alert">{problem}</p>
      <Button main type="submit">Keep</Button>
    </form>
  </Dialog>
{/if}
