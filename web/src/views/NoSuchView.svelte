<script lang="ts">
  import { replace, router } from 'svelte-spa-router';
  import { session } from '../state/session.svelte';
  import { viewsFor } from './views';

  // an address without a view opens on the first view that the person has
  $effect(() => {
    if (router.location === '/') void replace(viewsFor(session.me?.role)[0]?.path ?? '/dispatch');
  });
</script>

{#if router.location !== '/'}
  <div class="p-6">
    <h1>There is no such page</h1>
    <p class="mt-2 text-soft">
      The address leads nowhere. <a class="text-verdigris underline" href="#/">Start again</a>
    </p>
  </div>
{/if}
