<script lang="ts">
  import { describe, draw, STOPS, type TrackData } from './track';

  interface Props {
    track: TrackData;
    big?: boolean;
    width?: number;
  }
  let { track, big = false, width = big ? 388 : 132 }: Props = $props();

  const HEIGHT = 20;
  const drawing = $derived(draw(track, width, HEIGHT, big));
  const words = $derived(describe(track));
  const r = $derived(big ? 4.2 : 2.6);
  const thick = $derived(big ? 2.4 : 1.7);
  const colour = { done: 'var(--verdigris)', 'under way': 'var(--ink)', waiting: 'var(--amber)' };
</script>

{#snippet arrow(x: number, y: number, fill: string)}
  <path d="M{x - r} {y - r}L{x + r * 1.3} {y}L{x - r} {y + r}Z" {fill} />
{/snippet}

<svg {width} height={drawing.height} role="img" aria-label={words} class="block">
  {#if !big}<title>{words}</title>{/if}
  {#each STOPS as stop, i (stop)}
    {@const tick = big ? 5 : 3}
    <line
      x1={drawing.x(i)}
      x2={drawing.x(i)}
      y1={drawing.trunkY - tick}
      y2={drawing.trunkY + tick}
      stroke="var(--faint)"
    />
  {/each}
  {#if !drawing.branches.length}
    <line
      x1={drawing.x(drawing.trunkEnd)}
      x2={drawing.x(6)}
      y1={drawing.trunkY}
      y2={drawing.trunkY}
      stroke="var(--faint)"
      stroke-dasharray="1.5 3"
    />
  {/if}
  <line
    x1={drawing.x(0)}
    x2={drawing.x(drawing.trunkEnd)}
    y1={drawing.trunkY}
    y2={drawing.trunkY}
    stroke="var(--ink)"
    stroke-width={thick}
  />
  {#each drawing.branches as branch, i (i)}
    <path d={branch.path} fill="none" stroke={colour[branch.kind]} stroke-width={thick} />
    {#if branch.kind !== 'done'}
      <line
        x1={branch.x}
        x2={drawing.x(6)}
        y1={branch.y}
        y2={branch.y}
        stroke={branch.late ? 'var(--madder)' : 'var(--faint)'}
        stroke-width={branch.late ? thick * 0.8 : 1}
        stroke-dasharray="1.5 3"
      />
    {/if}
    {#if branch.kind === 'waiting'}
      <circle
        cx={branch.x}
        cy={branch.y}
        {r}
        fill="var(--sheet)"
        stroke="var(--amber)"
        stroke-width={thick * 0.8}
      />
    {:else if branch.kind === 'done'}
      <rect x={branch.x - r} y={branch.y - r} width={2 * r} height={2 * r} fill="var(--verdigris)" />
    {:else}
      {@render arrow(branch.x, branch.y, 'var(--ink)')}
    {/if}
    {#if big}
      <text x={drawing.x(3) - 2} y={branch.y - 9} font-size="11" fill="var(--soft)">{branch.label}</text>
    {/if}
  {/each}
  {#if !drawing.branches.length}
    {@const x = drawing.x(drawing.trunkEnd)}
    {#if track.stuck}
      <rect x={x - 1} y={drawing.trunkY - 6} width="2" height="12" fill="var(--madder)" />
      <rect x={x + 3} y={drawing.trunkY - 6} width="2" height="12" fill="var(--madder)" />
    {:else}
      {@render arrow(x, drawing.trunkY, 'var(--ink)')}
    {/if}
  {/if}
  {#if big}
    {#each STOPS as stop, i (stop)}
      <text
        x={i === 0 ? 0 : i === 6 ? width : drawing.x(i)}
        y={drawing.height - 4}
        font-size="10.5"
        text-anchor={i === 0 ? 'start' : i === 6 ? 'end' : 'middle'}
        fill="var(--soft)">{stop}</text
      >
    {/each}
  {/if}
</svg>
