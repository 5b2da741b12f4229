<script lang="ts">
  import { router } from 'svelte-spa-router';

  const TABS = [
    ['/backorders', 'Short items'],
    ['/backorders/promises', 'Promises that break'],
    ['/backorders/runs', 'Allocation runs']
  ] as const;
  const here = $derived(
    TABS.findLast(([path]) => router.location === path || router.location.startsWith(`${path}/`))?.[0]
  );
</script>

<nav class="flex gap-4.5 border-b border-line px-4" aria-label="Backorders">
  {#each TABS as [path, name] (path)}
    <a
      class={[
        'py-1.5',
        here === path ? 'border-b-2 border-verdigris font-[650]' : 'text-soft hover:text-ink'
      ]}
      aria-current={here === path ? 'page' : undefined}
      href="#{path}">{name}</a
    >
  {/each}
</nav>
