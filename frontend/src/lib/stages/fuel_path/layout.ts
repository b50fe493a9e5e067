import type { Train } from '$lib/api/client';

export interface Cell {
  key: string;
  x: number;
  width: number;
  middle: number;
  lines: string[];
}

const WEIGHTS: Record<string, number> = { fitting: 0.62, bulkhead: 0.95 };
const LETTER = 5.7;

/** Words laid into lines no wider than a cell, in place of a browser's own wrapping. */
export function wrap(text: string, width: number, letter = LETTER): string[] {
  const most = Math.max(4, Math.floor(width / letter));
  const lines: string[] = [];
  for (const word of text.split(' ')) {
    const last = lines.at(-1);
    if (last !== undefined && `${last} ${word}`.length <= most)
      lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines.slice(0, 4);
}

/** Cells from source to intake, one beside the other, over the whole width. */
export function cells(train: Train, width: number): Cell[] {
  const weights = train.places.map((place) => WEIGHTS[place.kind] ?? 1);
  const sum = weights.reduce((a, b) => a + b, 0) || 1;
  const unit = Math.max(50, width / sum);
  let x = 0;
  return train.places.map((place, i) => {
    const wide = unit * (weights[i] ?? 1);
    const cell = {
      key: place.key,
      x,
      width: wide,
      middle: x + wide / 2,
      lines: place.kind === 'fitting' ? [] : wrap(place.title, wide)
    };
    x += wide;
    return cell;
  });
}

export interface Strip {
  key: string;
  name: string;
  unit: string;
  top: number;
  height: number;
  low: number;
  high: number;
  ticks: number[];
  lines: { load: string; points: [number, number][] }[];
  windows: { key: string; x: number; width: number; least: number; most: number }[];
}

const HEIGHTS: Record<string, number> = { cylinder: 52, middle: 64, low: 116, suction: 76 };
export const LOADS = [
  ['none', 'no flow'],
  ['idle', 'idle'],
  ['half', 'half load'],
  ['full', 'full load']
] as const;

function nice(span: number): number {
  const rough = span / 4;
  const power = 10 ** Math.floor(Math.log10(rough));
  return ([1, 2, 2.5, 5, 10].find((step) => step * power >= rough) ?? 10) * power;
}

/** The ladder's strips, one a zone, on the train's own horizontal axis. */
export function strips(
  train: Train,
  placed: Cell[],
  system: 'us' | 'metric',
  top: number
): Strip[] {
  let y = top;
  return train.zones.map((zone) => {
    const { pa, unit } = zone[system];
    const values: number[] = [0];
    const lines = LOADS.map(([load]) => {
      const points: [number, number][] = [];
      train.places.forEach((place, i) => {
        const cell = placed[i] as Cell;
        const before = (place.inlet_pa[load] ?? 0) / pa;
        const after = (place.outlet_pa[load] ?? 0) / pa;
        const through = place.zone_in === place.zone_out;
        if (place.zone_in === zone.key) {
          points.push([cell.x, before]);
          points.push(through ? [cell.x + cell.width, after] : [cell.middle, before]);
        }
        if (!through && place.zone_out === zone.key) {
          points.push([cell.middle, after], [cell.x + cell.width, after]);
        }
      });
      values.push(...points.map(([, value]) => value));
      return { load, points };
    });
    const windows = train.places.flatMap((place, i) => {
      const cell = placed[i] as Cell;
      if (place.zone_in !== zone.key || place.least_pa === null || place.most_pa === null)
        return [];
      const entry = {
        key: place.key,
        x: cell.x,
        width: cell.width,
        least: place.least_pa / pa,
        most: place.most_pa / pa
      };
      if (zone.key === 'low' && train.fuel !== 'gasoline') values.push(entry.most);
      return [entry];
    });
    const least = Math.min(...values);
    const most = Math.max(...values);
    const step = nice(Math.max(most - least, 0.01));
    const low = Math.floor(least / step) * step;
    const high = Math.max(Math.ceil(most / step) * step, low + step);
    const ticks: number[] = [];
    for (let tick = low; tick <= high + step / 2; tick += step) ticks.push(Number(tick.toFixed(6)));
    const height = HEIGHTS[zone.key] ?? 90;
    const strip = {
      key: zone.key,
      name: zone.name,
      unit,
      top: y,
      height,
      low,
      high,
      ticks,
      lines,
      windows
    };
    y += height + 22;
    return strip;
  });
}

/** Labels at the ends of lines, pushed apart so that none covers another. */
export function spaced<T extends { y: number }>(wanted: T[], gap = 13): T[] {
  const sorted = [...wanted].sort((a, b) => a.y - b.y);
  sorted.forEach((label, i) => {
    const above = sorted[i - 1];
    if (above && label.y - above.y < gap) label.y = above.y + gap;
  });
  return sorted;
}

/** Where a key leads along the train: another place, or what is done at this one. */
export function walked(
  key: string,
  at: number,
  last: number
): number | 'swap' | 'remove' | undefined {
  const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[key];
  if (step !== undefined) return at + step;
  if (key === 'Home') return 0;
  if (key === 'End') return last;
  if (key === 'Enter' || key === ' ') return 'swap';
  return key === 'Delete' ? 'remove' : undefined;
}
