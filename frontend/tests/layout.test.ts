import { describe, expect, it } from 'vitest';
import type { Reference, Train } from '$lib/api/client';
import { assumption, fieldOf, scaled, unscaled } from '$lib/session/reference';
import { cells, spaced, strips, wrap } from '$lib/stages/fuel_path/layout';

const LEVELS = { none: 2740, idle: 2700, half: 2500, full: 2300 };

/** A train of so many places: from the source's own pressure to a few inches of water. */
function train(kinds: string[]): Train {
  const places = kinds.map((kind, i) => ({
    key: `p${i}`,
    kind,
    title: `the part that is at place ${i}`,
    zone_in: i === 0 ? 'cylinder' : 'low',
    zone_out: 'low',
    inlet_pa: i === 0 ? { none: 7e5, idle: 7e5, half: 7e5, full: 7e5 } : LEVELS,
    outlet_pa: LEVELS,
    least_pa: i === 2 ? 1245 : null,
    most_pa: i === 2 ? 3487 : null
  }));
  const unit = { us: { pa: 249.089, unit: 'in w.c.' }, metric: { pa: 100, unit: 'mbar' } };
  const zones = ['cylinder', 'low'].map((key) => ({ key, name: key, ...unit }));
  return { fuel: 'propane', places, zones } as unknown as Train;
}

describe('a drawn train', () => {
  it.each([320, 800, 1400])('fills %i pixels from source to intake without a gap', (width) => {
    const placed = cells(train(['cylinder', 'fitting', 'demand', 'hose']), width);
    placed.forEach((cell, i) => {
      const before = placed[i - 1];
      expect(cell.x).toBeCloseTo(before ? before.x + before.width : 0);
      expect(cell.middle).toBeCloseTo(cell.x + cell.width / 2);
    });
    const last = placed.at(-1);
    expect((last?.x ?? 0) + (last?.width ?? 0)).toBeCloseTo(width);
    expect(placed[1]?.lines).toEqual([]);
  });

  it('stays readable where there is little room: it grows past the width instead', () => {
    const placed = cells(train(Array<string>(12).fill('hose')), 320);
    for (const cell of placed) expect(cell.width).toBeGreaterThanOrEqual(50);
  });

  it.each(['us', 'metric'] as const)('shows every pressure within its strip, in %s', (system) => {
    const one = train(['cylinder', 'fitting', 'demand', 'hose']);
    const found = strips(one, cells(one, 900), system, 40);
    expect(found.map((strip) => strip.key)).toEqual(['cylinder', 'low']);
    expect(found[1]?.top).toBeGreaterThan((found[0]?.top ?? 0) + (found[0]?.height ?? 0));
    for (const strip of found) {
      const values = strip.lines.flatMap((line) => line.points.map(([, value]) => value));
      for (const value of values) {
        expect(value).toBeGreaterThanOrEqual(strip.low);
        expect(value).toBeLessThanOrEqual(strip.high);
      }
      expect(strip.ticks[0]).toBeCloseTo(strip.low);
      expect(strip.ticks.at(-1)).toBeCloseTo(strip.high);
      expect(strip.ticks.length).toBeLessThan(9);
    }
    // What a part takes is on the scale too, or a train near its limit would look fine.
    const [window] = found[1]?.windows ?? [];
    expect(window?.most).toBeLessThanOrEqual(found[1]?.high ?? 0);
  });

  it('draws pressures along the gas, never back', () => {
    const one = train(['cylinder', 'fitting', 'demand', 'hose']);
    for (const strip of strips(one, cells(one, 900), 'us', 0))
      for (const line of strip.lines) {
        const along = line.points.map(([x]) => x);
        expect(along).toEqual([...along].sort((a, b) => a - b));
      }
  });
});

describe('labels', () => {
  it('are wrapped between words and no line is lost before the fourth', () => {
    const lines = wrap('first-stage regulator with an inlet for two cylinders', 90);
    expect(lines.length).toBeLessThanOrEqual(4);
    expect(
      'first-stage regulator with an inlet for two cylinders'.startsWith(lines.join(' '))
    ).toBe(true);
    expect(wrap('short', 400)).toEqual(['short']);
  });

  it('are pushed apart until none covers another, in their order', () => {
    const found = spaced([{ y: 40 }, { y: 12 }, { y: 41 }, { y: 14 }, { y: 200 }], 13);
    found.slice(1).forEach((label, i) => {
      expect(label.y - (found[i]?.y ?? 0)).toBeGreaterThanOrEqual(13);
    });
    expect(found.at(-1)?.y).toBe(200);
  });
});

describe('the reference', () => {
  const reference = {
    kinds: {
      temperature: {
        us: { factor: 1.8, offset: -459.67, text: '°F' },
        metric: { factor: 1, offset: -273.15, text: '°C' }
      }
    },
    fields: {
      'set.running': { kind: 'power', label: 'Running' },
      'sites.*.elevation': { kind: 'elevation', label: 'Elevation' },
      'sites.*.cylinders.*.tare': { kind: 'mass', label: 'Tare' }
    }
  } as unknown as Reference;

  it('turns values into shown numbers and back', () => {
    expect(scaled(reference, 'temperature', 'us', 273.15)).toBeCloseTo(32);
    expect(scaled(reference, 'temperature', 'metric', 273.15)).toBeCloseTo(0);
    for (const system of ['us', 'metric'] as const)
      expect(
        unscaled(reference, 'temperature', system, scaled(reference, 'temperature', system, 301.2))
      ).toBeCloseTo(301.2);
    expect(scaled(reference, 'no such kind', 'us', 7)).toBe(7);
  });

  it("says what is assumed in the reader's unit, and words as they are", () => {
    expect(assumption(reference, 'temperature', 'us', 298.15)).toBe('77 °F, assumed');
    expect(assumption(reference, 'temperature', 'metric', 273.15)).toBe('0 °C, assumed');
    expect(assumption(reference, 'temperature', 'us', 'sea level')).toBe('sea level');
    expect(assumption(reference, 'temperature', 'us', '')).toBe('');
  });

  it('finds a field whatever its records are called', () => {
    expect(fieldOf(reference, 'sites.s9.elevation')?.label).toBe('Elevation');
    expect(fieldOf(reference, 'sites.s1.cylinders.c4.tare')?.label).toBe('Tare');
    expect(fieldOf(reference, 'sites.s1.cylinders.tare')).toBeUndefined();
    expect(fieldOf(undefined, 'set.running')).toBeUndefined();
  });
});
