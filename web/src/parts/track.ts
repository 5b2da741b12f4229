/** Where a track's strokes go. Pure geometry: the same drawing small in a row and large in the inspector. */
export const STOPS = [
  'Received',
  'Approved',
  'Routed',
  'Released',
  'Packed',
  'Shipped',
  'Delivered'
] as const;

export interface TrackBranch {
  node: string;
  units: number;
  /** 2 routed … 6 delivered */
  stop: number;
  late: boolean;
  carrier?: string;
}

export interface TrackData {
  /** the stop that the order as a whole has reached, for one without branches */
  stop: number;
  branches: TrackBranch[];
  waiting: boolean;
  /** when what waits is expected to arrive, as people say it; empty: not known */
  until?: string;
  stuck: boolean;
}

export interface Drawn {
  kind: 'done' | 'under way' | 'waiting';
  late: boolean;
  path: string;
  /** where the rest begins, and its height */
  x: number;
  y: number;
  label: string;
}

export interface Drawing {
  x: (stop: number) => number;
  trunkY: number;
  trunkEnd: number;
  branches: Drawn[];
  height: number;
}

const ROUTED = 2;

export function draw(track: TrackData, width: number, height: number, big: boolean): Drawing {
  const pad = big ? 14 : 4;
  const step = (width - 2 * pad) / 6;
  const x = (stop: number) => pad + stop * step;
  const ends: { stop: number; late: boolean; waiting: boolean; label: string }[] = track.branches.map(
    (b) => ({
      stop: b.stop,
      late: b.late,
      waiting: false,
      label: `${b.node} · ${b.units} ${b.units === 1 ? 'unit' : 'units'}`
    })
  );
  if (track.waiting)
    ends.push({
      stop: ROUTED + 0.6,
      late: false,
      waiting: true,
      label: track.until ? `waits · ${track.until}` : 'waits for stock'
    });
  const gap = big ? 30 : Math.min(6, (height - 6) / Math.max(1, ends.length - 1));
  const top = big ? 26 : height / 2 - ((ends.length - 1) / 2) * gap;
  const ys = ends.map((_, i) => top + i * gap);
  // small: the trunk runs through the middle of its branches; big: along the first of them
  const trunkY = big ? top : height / 2;
  const bend = x(ROUTED) + step * 0.45;
  return {
    x,
    trunkY,
    trunkEnd: ends.length ? ROUTED : track.stop,
    branches: ends.map((end, i) => {
      const y = ys[i] ?? trunkY;
      const to = Math.max(end.stop > ROUTED ? bend : x(ROUTED), x(end.stop));
      const path =
        end.stop > ROUTED
          ? `M${x(ROUTED)} ${trunkY}C${x(ROUTED) + step * 0.3} ${trunkY} ${bend - step * 0.15} ${y} ${bend} ${y}L${to} ${y}`
          : '';
      return {
        kind: end.waiting ? 'waiting' : end.stop >= 6 ? 'done' : 'under way',
        late: end.late,
        path,
        x: to,
        y,
        label: end.label
      };
    }),
    height: big ? top + Math.max(0, ends.length - 1) * gap + 30 : height
  };
}

const waits = (track: TrackData) =>
  track.until ? `waits for stock, arrives ${track.until}` : 'waits for stock';

/** The same in words, for screen readers and tooltips. */
export function describe(track: TrackData): string {
  const at = STOPS[Math.floor(track.stop)]?.toLowerCase() ?? 'received';
  if (!track.branches.length) {
    return track.waiting ? `${at}, ${waits(track)}` : track.stuck ? `${at}, stuck` : at;
  }
  return track.branches
    .map((b) => `${b.node}, ${b.units} units: ${STOPS[b.stop]?.toLowerCase()}${b.late ? ', late' : ''}`)
    .concat(track.waiting ? [`the rest ${waits(track)}`] : [])
    .join('; ');
}
