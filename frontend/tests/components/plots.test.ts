import { screen } from '@testing-library/svelte';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { CylinderAnswer, Mixture } from '$lib/api/client';
import type { JobSession } from '$lib/session/session.svelte';
import type { GasMetering } from '$lib/stages/first_start/bench.svelte';
import SweepPlot from '$lib/stages/first_start/SweepPlot.svelte';
import MixturePlot from '$lib/stages/fuel_path/MixturePlot.svelte';
import Chill from '$lib/stages/method/Chill.svelte';
import { shop } from '../shop';
import { figure, inJob, opened } from './inJob';

const number = (element: Element | null | undefined, name: string) =>
  Number(element?.getAttribute(name));

function turns(value: number, key = 'sweep.setting') {
  const shown = { text: String(value), unit: 'turns', low: '', high: '', number: value };
  return figure({ key, value, us: shown, metric: shown });
}

function reading(key: string, at: number, value: number, ran = 'smooth') {
  return { key, turns: at, value, ran };
}

const sweep = (changes: object = {}) =>
  ({
    signal: 'output',
    signal_kind: 'power',
    most: 6,
    expected: figure(),
    lean: turns(1.1, 'sweep.lean'),
    rich: turns(1.9, 'sweep.rich'),
    setting: turns(1.5),
    next: null,
    readings: [
      reading('r1', 0.8, 2300),
      reading('r2', 1.5, 2650),
      reading('r3', 2.2, 2500, 'hunting'),
      reading('r4', 0.3, 0, 'died')
    ],
    curve: {
      turns: [0.8, 1.5, 2.2],
      middle: [2300, 2650, 2500],
      low: [2250, 2600, 2450],
      high: [2350, 2700, 2550]
    },
    ...changes
  }) as unknown as GasMetering;

describe('plots', () => {
  let session: JobSession;
  beforeEach(async () => {
    shop.reset();
    session = await opened();
  });
  afterEach(() => session.close());

  it('the plateau lies between its two ends, and the setting inside it', () => {
    const { container } = inJob(SweepPlot, { gas: sweep() }, session);
    const plateau = container.querySelector('.plateau');
    const left = number(plateau, 'x');
    const right = left + number(plateau, 'width');
    const set = Number(
      /M([\d.]+)/.exec(container.querySelector('.set')?.getAttribute('d') ?? '')?.[1]
    );
    expect(left).toBeLessThan(set);
    expect(set).toBeLessThan(right);
    expect((set - left) / (right - left)).toBeCloseTo(0.5, 2);
    expect(screen.getByText('set 1.5')).toBeTruthy();
  });

  it('a higher reading stands higher, what died is at the foot, and hunting is said', () => {
    const { container } = inJob(SweepPlot, { gas: sweep() }, session);
    const [low, high, hunting] = [...container.querySelectorAll('circle')];
    expect(number(high, 'cy')).toBeLessThan(number(hunting, 'cy'));
    expect(number(hunting, 'cy')).toBeLessThan(number(low, 'cy'));
    expect(number(low, 'cx')).toBeLessThan(number(high, 'cx'));
    expect(container.querySelectorAll('.died')).toHaveLength(1);
    expect(screen.getByText('hunting')).toBeTruthy();
    expect(container.querySelector('svg')?.getAttribute('aria-label')).toBe('Sweep of 4 readings');
  });

  it('asks for the next reading and draws no plateau before both ends are seen', () => {
    const gas = sweep({ rich: null, setting: null, curve: null, next: { turns: 2.6 } });
    const { container } = inJob(SweepPlot, { gas }, session);
    expect(container.querySelector('.plateau')).toBeNull();
    expect(container.querySelector('.middle')).toBeNull();
    expect(screen.getByText('next reading')).toBeTruthy();
  });

  it('the chill is drawn over hours, in the reader’s degrees, with the line it must not cross', () => {
    const answer = {
      curve: {
        times_s: [0, 1800, 3600, 7200],
        temperatures_k: [283.15, 270, 258, 247],
        contents_kg: [9, 8, 7, 5],
        frost_k: 273.15,
        dew_k: 276,
        starves_k: 243.5,
        ambient_k: 283.15
      }
    } as unknown as CylinderAnswer;
    const { container } = inJob(Chill, { answer }, session);
    const course = container.querySelector('.course')?.getAttribute('d') ?? '';
    const heights = [...course.matchAll(/[ML][\d.]+ ([\d.]+)/g)].map((one) => Number(one[1]));
    expect(heights).toEqual([...heights].sort((a, b) => a - b));
    const starve = /M\d+ ([\d.]+)H/.exec(
      container.querySelector('.mark.starve')?.getAttribute('d') ?? ''
    );
    expect(Number(starve?.[1])).toBeGreaterThan(Math.max(...heights));
    expect(screen.getByText('too cold to give gas')).toBeTruthy();
    expect(screen.getByText(/°F, against hours of run/)).toBeTruthy();
    expect(screen.getByText('2 h')).toBeTruthy();
  });
});

describe('the mixture over load', () => {
  let session: JobSession;
  beforeEach(async () => {
    shop.reset();
    session = await opened();
  });
  afterEach(() => session.close());

  const lam = (key: string, value: number) => {
    const shown = { text: String(value), unit: '', low: '', high: '', number: value };
    return figure({ key, label: `λ at ${key}`, value, us: shown, metric: shown });
  };
  const MIXTURE: Mixture = {
    loads: [0, 0.5, 1],
    expected: [1.3, 1.05, 0.95],
    low: [1.0, 0.98, 0.95],
    high: [2.9, 1.2, 0.96],
    idle_set: [1, 1.02, 0.95],
    figures: [lam('no load', 1.3), lam('full load', 0.95)],
    hunts: 1.1,
    hot: 1.2
  };
  const places = (path: string) =>
    [...path.matchAll(/(-?[\d.]+) (-?[\d.]+)/g)].map(([, x, y]) => ({
      x: Number(x),
      y: Number(y)
    }));
  const drawn = (name: string) =>
    places(document.querySelector(`figure .${name}`)?.getAttribute('d') ?? '');

  it('draws what is expected, with the idle screw set, its band and both limits', () => {
    inJob(MixturePlot, { mixture: MIXTURE, gas: 'propane' }, session);
    const [course, idled] = [drawn('course'), drawn('idled')];
    expect(course).toHaveLength(3);
    // Leaner is higher up, more load is farther right.
    expect(course[0]?.y).toBeLessThan(course[2]?.y ?? 0);
    expect(course[0]?.x).toBeLessThan(course[2]?.x ?? 0);
    expect(idled[0]?.y).toBeGreaterThan(course[0]?.y ?? 0);
    expect(idled[2]?.y).toBe(course[2]?.y);
    expect(drawn('band')).toHaveLength(6);
    expect(document.querySelectorAll('figure .limit')).toHaveLength(2);
  });

  it('says in words what it draws, and its figures open their working', () => {
    inJob(MixturePlot, { mixture: MIXTURE, gas: 'propane' }, session);
    expect(screen.getByRole('img').getAttribute('aria-label')).toContain('λ at no load 1.3');
    expect(document.querySelectorAll('dl [data-figure]')).toHaveLength(2);
  });
});
