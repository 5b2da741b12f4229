<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { day } from '../../parts/format';

  let { promises }: { promises: Schemas['TodayPromise'][] } = $props();
</script>

<h2 class="border-t border-line px-3 pt-2.5 pb-0.5">Promises about to break</h2>
{#if promises.length}
  <table class="w-full">
    <tbody>
      {#each promises as promise (promise.orderId + promise.problem)}
        <tr class="h-[30px] border-t border-line first:border-0">
          <td class="px-3 font-mono text-xs"
            ><a class="hover:underline" href="#/orders/{promise.orderId}?pile=ALL">{promise.orderNumber}</a
            ></td
          >
          <td>{promise.problem}</td>
          <td class={['px-3 text-right', promise.broken ? 'text-madder' : 'text-amber-ink']}
            >{promise.broken ? 'was due' : 'due'} {day(promise.was)}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
{:else}
  <p class="px-3 pt-1 pb-2.5 text-soft">None. Every consignment can still leave by its date.</p>
{/if}
