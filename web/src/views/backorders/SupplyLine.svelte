<!-- What there is of an item and what comes, along a line in time; filled is what those who wait will have. -->
<script lang="ts">
  import { count, day, plural } from '../../parts/format';
  import type { Stop } from './queue';

  interface Props {
    all: Stop[];
    width: number;
  }
  let { all, width }: Props = $props();

  const LINE = 46;
  const TALL = 30;
  const most = $derived(Math.max(1, ...all.map((s) => s.units)));
  const high = (units: number) => (units ? Math.max(2, (units / most) * TALL) : 0);
  const wide = $derived(Math.max(width, (all.at(-1)?.x ?? 0) + 46));
  const words = $derived(
    all
      .map((s) => `${s.sign}: ${plural(s.units, 'unit')} ${day(s.date)}, ${s.given} for those who wait`)
      .join('; ')
  );
</script>

<div class="overflow-x-auto">
  <svg width={wide} height="100" role="img" aria-label={words} class="block">
    <line x1="8" x2={wide} y1={LINE} y2={LINE} stroke="var(--faint)" stroke-dasharray="1.5 3" />
    <line
      x1={all[0]?.x ?? 0}
      x2={all.at(-1)?.x ?? 0}
      y1={LINE}
      y2={LINE}
      stroke="var(--ink)"
      stroke-width="2"
    />
    {#each all as stop (stop.sign)}
      {@const tall = high(stop.units)}
      {@const filled = stop.units ? (stop.given / stop.units) * tall : 0}
      <rect
        x={stop.x - 9}
        y={LINE - tall}
        width="18"
        height={tall}
        fill="var(--sheet)"
        stroke="var(--verdigris)"
      />
      <rect x={stop.x - 9} y={LINE - filled} width="18" height={filled} fill="var(--verdigris)" />
      <circle cx={stop.x} cy={LINE} r="4" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
      <text x={stop.x + 13} y={LINE - 7} font-size="11" font-weight="650" fill="var(--ink)"
        >{stop.id === undefined ? '' : '+'}{count(stop.units)}</text
      >
      <text x={stop.x} y={LINE + 18} font-size="12" font-weight="650" text-anchor="middle" fill="var(--ink)"
        >{stop.sign}{stop.id === undefined ? '' : ` · ${day(stop.date)}`}</text
      >
      <text x={stop.x} y={LINE + 33} font-size="10.5" text-anchor="middle" fill="var(--soft)"
        >{stop.from.length > 16 ? `${stop.from.slice(0, 15)}…` : stop.from}</text
      >
      <text x={stop.x} y={LINE + 47} font-size="10.5" text-anchor="middle" fill="var(--soft)"
        >{!stop.units
          ? 'none'
          : stop.units > stop.given
            ? `${count(stop.units - stop.given)} to spare`
            : 'all needed'}</text
      >
    {/each}
  </svg>
</div>
