<script lang="ts">
  import { QueryClientProvider } from '@tanstack/svelte-query';
  import { api, get, Problem } from './api/client';
  import { queries } from './api/queries';
  import Frame from './parts/Frame.svelte';
  import { session } from './state/session.svelte';
  import Entry from './views/entry/Entry.svelte';

  let asked = $state(false);
  let problem = $state('');

  async function who() {
    try {
      session.me = await get(api.GET('/api/session'));
    } catch (error) {
      session.me = undefined;
      problem = error instanceof Problem && error.status !== 401 ? error.message : '';
    }
    asked = true;
  }
  void who();
</script>

<QueryClientProvider client={queries}>
  {#if session.me}
    <Frame />
  {:else if problem}
    <main class="p-8">
      <h1>Ordinator is not there</h1>
      <p class="mt-2 text-soft">{problem}</p>
    </main>
  {:else if asked}
    <Entry onentered={who} />
  {/if}
</QueryClientProvider>
