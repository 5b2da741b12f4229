<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { count, word } from '../../parts/format';

  interface Props {
    stops: Schemas['TodayStop'][];
    waiting: number;
  }
  let { stops, waiting }: Props = $props();

  let width = $state(1100);
  const Y = 52;
  const x = (i: number) => 40 + (i * (width - 80)) / 6;
  /** Half the band's width: the square root, so that a thousand released leave room for nine received. */
  const half = (n: number) => Math.max(3, Math.min(34, Math.sqrt(n) * 2.6)) / 2;
  const band = (i: number) => {
    const [a, b] = [half(stops[i]?.orders ?? 0), half(stops[i + 1]?.orders ?? 0)];
    const [from, to] = [x(i), x(i + 1)];
    const middle = (from + to) / 2;
    return `M${from} ${Y - a}C${middle} ${Y - a} ${middle} ${Y - b} ${to} ${Y - b}L${to} ${Y + b}C${middle} ${Y + b} ${middle} ${Y + a} ${from} ${Y + a}Z`;
  };
  const named = (s: Schemas['TodayStop']) => word(s.stage) + (s.since ? ' today' : '');
  const name = (s: Schemas['TodayStop']) => named(s).replace(/^./, (c) => c.toUpperCase());
  const href = (s: Schemas['TodayStop']) =>
    `#/orders?pile=${s.since ? 'DONE' : 'OPEN'}&stage=${s.stage}${s.since ? `&since=${s.since}` : ''}`;
  const words = $derived(
    stops.map((s) => `${s.orders} ${named(s)}${s.stuck ? `, ${s.stuck} of them stuck` : ''}`).join('; ')
  );
</script>

<div class="my-2" bind:clientWidth={width}>
  <svg {width} height="124" role="group" aria-label="Orders by stage: {words}">
    {#each stops.slice(0, 6) as stop, i (stop.stage)}
      <path d={band(i)} fill="var(--ink)" opacity={i === 5 ? 0.18 : 0.82} />
    {/each}
    {#if waiting}
      {@const from = x(1)}
      {@const to = x(2) + 60}
      <path
        d="M{from} {Y + 6}C{from + 50} {Y + 6} {from + 50} {Y + 52} {from + 100} {Y + 52}L{to} {Y + 52}"
        fill="none"
        stroke="var(--amber)"
        stroke-width={Math.min(12, 3 + waiting / 2)}
      />
      <circle cx={to + 8} cy={Y + 52} r="7" fill="var(--paper)" stroke="var(--amber)" stroke-width="3" />
      <a href="#/orders?pile=WAITING" aria-label="{waiting} wait for stock">
        <text x={to + 24} y={Y + 56} font-size="13" font-weight="650" fill="var(--amber-ink)"
          >{count(waiting)} wait for stock</text
        >
      </a>
    {/if}
    {#each stops as stop, i (stop.stage)}
      {@const anchor = i === 0 ? 'start' : i === 6 ? 'end' : 'middle'}
      {@const at = i === 0 ? x(0) - 8 : i === 6 ? x(6) + 8 : x(i)}
      <a href={href(stop)} aria-label="{stop.orders} {named(stop)}">
        <!-- the whole stop can be pressed, not only its letters -->
        <rect x={x(i) - 44} y="0" width="88" height={Y + 42} fill="transparent" />
        <line x1={x(i)} x2={x(i)} y1={Y - 22} y2={Y + 22} stroke="var(--paper)" stroke-width="2" />
        <text x={at} y="16" font-size="19" font-weight="650" text-anchor={anchor} fill="var(--ink)"
          >{count(stop.orders)}</text
        >
        <text x={at} y={Y + 36} font-size="12" text-anchor={anchor} fill="var(--soft)"
          >{name(stop)}{#if stop.stuck}&nbsp;·
            <tspan fill="var(--madder)" font-weight="650">{count(stop.stuck)} stuck</tspan>{/if}</text
        >
      </a>
    {/each}
  </svg>
</div>
