<script lang="ts">
  import { count, day } from '../../parts/format';
  import { session } from '../../state/session.svelte';
  import { breaks, signOf, type Stop, type Waiter } from './queue';

  interface Props {
    w: Waiter;
    place: number;
    all: Stop[];
    here: boolean;
    chosen: boolean;
    moved: boolean;
    ontoggle: () => void;
    onat: () => void;
    ondragged: () => void;
    ondropped: () => void;
  }
  let { w, place, all, here, chosen, moved, ontoggle, onat, ondragged, ondropped }: Props = $props();

  const sign = $derived(signOf(w, all));
  let over = $state(false);
</script>

<tr
  class={[
    'h-[42px] cursor-default border-b border-line',
    moved ? 'bg-sunk' : here ? 'bg-verdigris-wash' : 'hover:bg-sunk',
    over && 'shadow-[inset_0_2px_var(--verdigris)]'
  ]}
  aria-selected={here}
  draggable={session.mayChange}
  ondragstart={ondragged}
  ondragover={(event) => {
    event.preventDefault();
    over = true;
  }}
  ondragleave={() => (over = false)}
  ondrop={(event) => {
    event.preventDefault();
    over = false;
    ondropped();
  }}
  onclick={onat}
>
  <td class="ps-4"
    ><input
      type="checkbox"
      class="size-3.5 rounded-sm border-faint"
      aria-label="Choose {w.orderNumber}"
      checked={chosen}
      onclick={(event) => event.stopPropagation()}
      onchange={ontoggle}
    /></td
  >
  <td class="px-1 text-right text-soft">{place}</td>
  <td class="px-2">
    <span class="block truncate"
      ><a class="font-mono text-xs hover:underline" href="#/orders/{w.orderId}?pile=WAITING"
        >{w.orderNumber}</a
      >
      <span dir="auto">{w.buyer}</span></span
    >
    <span class="block truncate text-xs text-soft"
      >class {w.priority} · {w.channel}{#if w.held}<b class="font-[650] text-madder">
          · held</b
        >{/if}{#if w.stuck}<b class="font-[650] text-madder">
          · there is enough, but no way to send it</b
        >{/if}{w.inPart ? ' · goes in part' : ''}{w.others.length
        ? ` · also lacks ${w.others.join(', ')}`
        : ''}{w.lacking ? '' : ' · there, goes with the rest'}</span
    >
  </td>
  <td class="px-2 text-right font-[650]">{count(w.units)}</td>
  <td class="px-2 whitespace-nowrap">
    {#if w.readyOn}<span
        class="me-1 inline-block min-w-5 rounded-sm border border-line px-1 text-center text-xs font-[650]"
        >{sign}</span
      >{day(w.readyOn)}
    {:else}<span class="text-madder">○ no day</span>{/if}
  </td>
  <td class="px-2 pe-4 whitespace-nowrap">
    {#if w.promisedOn}
      {#if breaks(w)}<span class="font-[650] text-madder">✕ {day(w.promisedOn)}</span>
        <span class="block text-xs text-madder"
          >now {w.expectedOn ? day(w.expectedOn) : 'nobody can say'}</span
        >
      {:else}{day(w.promisedOn)}{/if}
    {:else}<span class="text-soft">nothing yet</span>{/if}
  </td>
</tr>
