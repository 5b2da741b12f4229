<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, get } from '../api/client';
  import { left } from './format';

  const SOON = 60;
  const SHOWN = 3;

  const board = createQuery(() => ({
    queryKey: ['dispatch', 'board'],
    queryFn: () => get(api.GET('/api/dispatch/board')),
    refetchInterval: 60_000
  }));
  const nodes = $derived(
    (board.data?.nodes ?? []).toSorted((a, b) => a.minutesLeft - b.minutesLeft).slice(0, SHOWN)
  );
</script>

<ul class="flex min-w-0 gap-4 overflow-hidden whitespace-nowrap" aria-label="Next cut-offs">
  {#each nodes as node (node.code)}
    {@const todo = (node.due.OVERDUE ?? 0) + (node.due.TODAY ?? 0)}
    <li class="hidden first:block lg:[&:nth-child(2)]:block xl:block">
      <b class="font-[650]">{node.name}</b>
      {#if node.worksToday}{node.cutOff.slice(0, 5)}{/if}
      {#if !node.worksToday}<span class="text-soft">closed today</span>
      {:else if !todo}<span class="text-soft">all out</span>
      {:else if node.minutesLeft < 0}<span class="text-madder">{todo} missed it</span>
      {:else if node.minutesLeft < SOON}<span class="text-amber-ink"
          >{todo} left · {left(node.minutesLeft)}</span
        >
      {:else}<span class="text-soft">{todo} left</span>{/if}
    </li>
  {/each}
</ul>
