<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { left } from '../../parts/format';
  import { setParams } from '../../state/address';

  interface Props {
    nodes: Schemas['DispatchBoardNodeRow'][];
    node: string;
    due: string;
  }
  let { nodes, node, due }: Props = $props();

  const DUES = [
    ['OVERDUE', 'Overdue'],
    ['TODAY', 'Today'],
    ['TOMORROW', 'Tomorrow'],
    ['LATER', 'Later']
  ] as const;
</script>

<div class="card mx-4 mb-3 overflow-hidden">
  <table class="w-full table-fixed">
    <thead class="bg-paper">
      <tr>
        <th class="w-[22%] px-3 py-1">Due board</th>
        {#each DUES as [key, name] (key)}<th class="border-l border-line px-3">{name}</th>{/each}
        <th class="border-l border-line px-3 text-right">Out today</th>
      </tr>
    </thead>
    <tbody>
      {#each nodes as n (n.code)}
        <tr class="border-t border-line">
          <th scope="row" class="px-3 py-2 text-sm text-ink"
            >{n.name}
            <span class="ms-1 font-normal text-soft"
              >{n.worksToday ? `${n.cutOff.slice(0, 5)} · ${left(n.minutesLeft)}` : 'closed today'}</span
            ></th
          >
          {#each DUES as [key] (key)}
            {@const number = n.due[key] ?? 0}
            {@const on = node === n.code && due === key}
            <td class="border-l border-line p-0">
              <button
                class={[
                  'w-full px-3 py-2 text-left text-base',
                  on ? 'bg-verdigris-wash font-[650]' : 'hover:bg-sunk',
                  number ? key === 'OVERDUE' && 'font-[650] text-madder' : 'text-soft'
                ]}
                aria-pressed={on}
                aria-label="{n.name}, {key.toLowerCase()}: {number}"
                onclick={() => setParams(on ? { node: '', due: '' } : { node: n.code, due: key, state: '' })}
                >{number || '·'}</button
              >
            </td>
          {/each}
          <td class="border-l border-line px-3 text-right"
            >{n.doneToday}{n.room === null ? '' : ` of ${n.room}`}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
</div>
