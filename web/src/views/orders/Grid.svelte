<script lang="ts">
  import { tinykeys } from 'tinykeys';
  import Track from '../../parts/Track.svelte';
  import { fullMoment, moment } from '../../parts/format';
  import { money } from '../../parts/money';
  import { inSight, scrollFor } from '../../parts/rows';
  import { free, toTheList } from '../../state/keys';
  import { leaves, markColour, type Row, trackOf } from './worklist';

  interface Props {
    rows: Row[];
    current?: number;
    selected: number[];
    more: boolean;
    onmore: () => void;
    onopen: (id: number) => void;
    loading: boolean;
    problem: string;
    narrow: boolean;
  }
  let {
    rows,
    current,
    selected = $bindable(),
    more,
    onmore,
    onopen,
    loading,
    problem,
    narrow
  }: Props = $props();

  const ROW = 30;
  const HEAD = 28;
  const READ_AHEAD = 40;
  let scroller = $state<HTMLDivElement>();
  let top = $state(0);
  let height = $state(600);
  let width = $state(1100);
  // beside an inspector on a small screen: the order, who, how far, when and what is wrong
  const cramped = $derived(width < 640);
  const columns = $derived(6 + (cramped ? 0 : 3) + (narrow ? 0 : 1));
  const part = $derived(inSight(top, height, ROW, rows.length));
  const at = $derived(rows.findIndex((r) => r.id === current));

  $effect(() => {
    if (more && part.to > rows.length - READ_AHEAD) onmore();
  });

  function moveTo(index: number) {
    const row = rows[Math.max(0, Math.min(rows.length - 1, index))];
    if (!row || !scroller) return;
    scroller.scrollTop = scrollFor(rows.indexOf(row), scroller.scrollTop, height, ROW, HEAD);
    onopen(row.id);
  }
  const move = (by: number) => (event: KeyboardEvent) => {
    if (!free(event)) return;
    event.preventDefault();
    toTheList();
    moveTo(at < 0 ? 0 : at + by);
  };
  function toggle(id: number) {
    selected = selected.includes(id) ? selected.filter((s) => s !== id) : [...selected, id];
  }

  $effect(() =>
    tinykeys(window, {
      j: move(1),
      k: move(-1),
      ArrowDown: move(1),
      ArrowUp: move(-1),
      PageDown: move(15),
      PageUp: move(-15),
      x: (event) => {
        if (free(event) && current !== undefined) toggle(current);
      }
    })
  );
</script>

<div
  bind:this={scroller}
  bind:clientHeight={height}
  bind:clientWidth={width}
  onscroll={(event) => (top = event.currentTarget.scrollTop)}
  class="min-h-0 flex-1 overflow-auto border-t border-line"
  role="region"
  aria-label="List of orders"
>
  <table class="w-full table-fixed" aria-rowcount={rows.length}>
    <colgroup>
      <col class="w-[30px]" /><col class="w-[78px]" /><col />
      {#if !cramped}<col class={narrow ? 'w-[70px]' : 'w-[96px]'} />{/if}
      <col class={cramped ? 'w-[116px]' : 'w-[130px]'} /><col class="w-[86px]" />
      {#if !cramped}<col class="w-[44px]" /><col class="w-[74px]" />{/if}
      <col class={cramped ? 'w-[96px]' : narrow ? 'w-[136px]' : 'w-[200px]'} />
      {#if !narrow}<col class="w-[120px]" />{/if}
    </colgroup>
    <thead class="sticky top-0 z-10 bg-paper shadow-[inset_0_-1px_var(--line)]">
      <tr style:height="{HEAD}px">
        <th class="px-2"
          ><input
            type="checkbox"
            class="size-3.5 rounded-sm border-faint"
            aria-label="Select all that are listed"
            checked={selected.length > 0 && selected.length === rows.length}
            onchange={(event) => (selected = event.currentTarget.checked ? rows.map((r) => r.id) : [])}
          /></th
        >
        <th class="px-1.5">Order</th><th class="px-1.5">Buyer</th>{#if !cramped}<th class="px-1.5">To</th
          >{/if}<th class="px-1">Track</th>
        <th class="px-1.5">Leaves</th>{#if !cramped}<th class="px-1.5 text-right">Units</th><th
            class="px-1.5 text-right">Value</th
          >{/if}
        <th class="px-1.5">Marks</th>{#if !narrow}<th class="px-1.5">Placed</th>{/if}
      </tr>
    </thead>
    <tbody>
      {#if part.above}<tr aria-hidden="true" style:height="{part.above}px"><td colspan={columns}></td></tr
        >{/if}
      {#each rows.slice(part.from, part.to) as row (row.id)}
        {@const here = row.id === current}
        <tr
          class={['cursor-default border-b border-line', here ? 'bg-verdigris-wash' : 'hover:bg-sunk']}
          style:height="{ROW}px"
          aria-selected={here}
          onclick={() => onopen(row.id)}
        >
          <td class={['px-2', here && 'shadow-[inset_3px_0_var(--verdigris)]']}
            ><input
              type="checkbox"
              class="size-3.5 rounded-sm border-faint"
              aria-label="Select {row.number}"
              checked={selected.includes(row.id)}
              onclick={(event) => event.stopPropagation()}
              onchange={() => toggle(row.id)}
            /></td
          >
          <td class="truncate px-1.5 font-mono text-xs"
            ><a
              href="#/orders/{row.id}"
              onclick={(e) => {
                e.preventDefault();
                onopen(row.id);
                e.stopPropagation();
              }}>{row.number}</a
            ></td
          >
          <td class="truncate px-1.5" title={row.buyer} dir="auto">{row.buyer}</td>
          {#if !cramped}<td class="truncate px-1.5 text-soft" title="{row.country} {row.postcode}"
              >{row.country} {narrow ? row.postcode.split(' ')[0] : row.postcode}</td
            >{/if}
          <td class="px-1"><Track track={trackOf(row)} width={cramped ? 110 : 122} /></td>
          <td class="truncate px-1.5">{leaves(row)}</td>
          {#if !cramped}
            <td class="px-1.5 text-right">{row.units}</td>
            <td class="px-1.5 text-right whitespace-nowrap">{money(row.total, row.currency)}</td>
          {/if}
          <td class={['truncate px-1.5', markColour(row)]} title={row.marks.map((m) => m.text).join(', ')}
            >{row.marks.map((m) => m.text).join(', ')}</td
          >
          {#if !narrow}<td class="truncate px-1.5 text-soft" title={fullMoment(row.placedAt)}
              >{moment(row.placedAt)}</td
            >{/if}
        </tr>
      {/each}
      {#if part.below}<tr aria-hidden="true" style:height="{part.below}px"><td colspan={columns}></td></tr
        >{/if}
    </tbody>
  </table>
  {#if !rows.length}
    <p class="p-4 text-soft">
      {#if problem}{problem}
      {:else if loading}Reading…
      {:else}No orders here. Orders come from the connected channels by themselves; remove a filter to see
        more.{/if}
    </p>
  {/if}
</div>
