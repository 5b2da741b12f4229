<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { left } from '../../parts/format';

  let { nodes }: { nodes: Schemas['DispatchBoardNodeRow'][] } = $props();

  const WIDTH = 150;
  const SOON = 60;
  const due = (n: Schemas['DispatchBoardNodeRow']) => (n.due.OVERDUE ?? 0) + (n.due.TODAY ?? 0);
  const over = (n: Schemas['DispatchBoardNodeRow']) =>
    n.room === null ? 0 : Math.max(0, n.doneToday + due(n) - n.room);
  const scale = (n: Schemas['DispatchBoardNodeRow'], units: number) => {
    const whole = n.room ?? Math.max(1, n.doneToday + due(n));
    return Math.min(WIDTH, (WIDTH * units) / whole);
  };
</script>

<h2 class="px-3 pt-2.5 pb-0.5">Leaving today</h2>
<table class="w-full">
  <thead
    ><tr
      ><th class="px-3 py-1">Node</th><th class="px-2">Cut-off</th><th class="px-2">Done, to do, room</th><th
        class="px-3 text-right">To do</th
      ></tr
    ></thead
  >
  <tbody>
    {#each nodes as node (node.code)}
      {@const done = scale(node, node.doneToday)}
      {@const todo = due(node)}
      <tr class="h-[30px] border-t border-line">
        <td class="px-3 font-[550]"
          ><a href="#/dispatch?node={node.code}" class="hover:underline">{node.name}</a></td
        >
        <td class="px-2 whitespace-nowrap"
          >{#if node.worksToday}{node.cutOff.slice(0, 5)}
            <span
              class={node.minutesLeft < 0 && todo
                ? 'text-madder'
                : node.minutesLeft < SOON && todo
                  ? 'text-amber-ink'
                  : 'text-soft'}>{todo ? left(node.minutesLeft) : 'out'}</span
            >{:else}<span class={todo ? 'text-madder' : 'text-soft'}>closed today</span>{/if}</td
        >
        <td class="px-2">
          <svg
            width={WIDTH}
            height="12"
            class="block"
            role="img"
            aria-label="{node.doneToday} done, {todo} to do, room for {node.room ?? 'any number'}"
          >
            <rect width={WIDTH} height="12" fill="var(--sunk)" />
            <rect width={done} height="12" fill="var(--ink)" opacity=".82" />
            <rect
              x={done}
              width={Math.min(WIDTH - done, scale(node, todo))}
              height="12"
              fill={over(node) ? 'var(--madder)' : 'var(--verdigris)'}
            />
            {#if over(node)}<path d="M146 0L150 6L146 12Z" fill="var(--paper)" />{/if}
          </svg>
        </td>
        <td class={['px-3 text-right', over(node) && 'text-madder']}>
          {todo}{over(node) ? ` · ${over(node)} over` : ''}
        </td>
      </tr>
    {/each}
  </tbody>
</table>
