import { describe as suite, expect, it } from 'vitest';
import { describe, draw, type TrackData } from './track';

const split: TrackData = {
  stop: 3,
  waiting: true,
  stuck: false,
  branches: [
    { node: 'Stillwater', units: 12, stop: 5, late: false },
    { node: 'Canal Row', units: 3, stop: 3, late: true }
  ]
};

suite('the track', () => {
  it('branches after Routed, one branch per consignment, and one for what waits', () => {
    const drawing = draw(split, 140, 20, false);
    expect(drawing.trunkEnd).toBe(2);
    expect(drawing.branches.map((b) => b.kind)).toEqual(['under way', 'under way', 'waiting']);
    const heights = drawing.branches.map((b) => b.y);
    expect(new Set(heights).size).toBe(3);
    expect(Math.min(...heights)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...heights)).toBeLessThanOrEqual(20);
  });

  it('puts each branch as far along as it has come', () => {
    const drawing = draw(split, 140, 20, false);
    const [shipped, released] = drawing.branches;
    expect(shipped!.x).toBeCloseTo(drawing.x(5));
    expect(released!.x).toBeCloseTo(drawing.x(3));
  });

  it('draws an order without branches as a trunk up to its stage', () => {
    const drawing = draw({ stop: 1, branches: [], waiting: false, stuck: true }, 140, 20, false);
    expect(drawing.branches).toEqual([]);
    expect(drawing.trunkEnd).toBe(1);
  });

  it('says the same in words', () => {
    expect(describe(split)).toBe(
      'Stillwater, 12 units: shipped; Canal Row, 3 units: released, late; the rest waits for stock'
    );
    expect(describe({ stop: 0, branches: [], waiting: false, stuck: true })).toBe('received, stuck');
  });
});
