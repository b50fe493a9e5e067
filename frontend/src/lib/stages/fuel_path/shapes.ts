/** Plain silhouettes of our own, drawn round (0, 0) with the gas passing along y = 0. */
export interface Shape {
  /** Filled outlines. */
  body: string[];
  /** Lines drawn over them. */
  lines?: string[];
  /** How far the body reaches to each side. */
  half: number;
}

const RECT = (w: number, h: number) => `M${-w / 2} ${-h / 2}h${w}v${h}h${-w}z`;

export const SHAPES: Record<string, Shape> = {
  cylinder: {
    body: ['M-17-22q0-12 12-14v-6h10v6q12 2 12 14v50q0 4-4 4h-26q-4 0-4-4z', 'M-14 32h28v4h-28z'],
    half: 17
  },
  stub: { body: ['M-16-26h10v20h22v12H-6v20h-10z'], half: 16 },
  digester: { body: ['M-22 24V0q0-22 22-22T22 0v24z'], lines: ['M-22 8h44'], half: 22 },
  tank: { body: ['M-22-20h12v-6h10v6h22v40h-44z'], lines: ['M-22 2h44'], half: 22 },
  regulator: {
    body: ['M-9-8-6-20h12l3 12z', 'M-18 0a18 14 0 0 1 36 0a18 14 0 0 1-36 0z'],
    lines: ['M-18 0h36'],
    half: 18
  },
  demand: {
    body: ['M-21 0a21 21 0 1 1 42 0a21 21 0 1 1-42 0z'],
    lines: ['M-11 0a11 11 0 1 1 22 0a11 11 0 1 1-22 0', 'M0-3v6'],
    half: 21
  },
  hose: { body: [], lines: ['M-22 0q5.5-12 11 0t11 0 11 0 11 0'], half: 22 },
  pipe: { body: ['M-24-6h48v12h-48z'], half: 24 },
  valve: { body: ['M-13-11 13 11V-11L-13 11z'], lines: ['M0 0v-15m-8 0h16'], half: 13 },
  half_supply: { body: ['M-12-12h16v24h-16z', 'M4-8h8v16H4z'], lines: ['M-6-12v24'], half: 12 },
  half_set: { body: ['M-4-12h16v24h-16z', 'M-12-5h8v10h-8z'], half: 12 },
  lock_off: { body: [RECT(26, 18), 'M-8-24H8v15H-8z'], lines: ['M-4-24v-5m8 5v-5'], half: 13 },
  screw: { body: [RECT(24, 16), 'M-4-20h8v12h-8z'], lines: ['M-7-20H7'], half: 12 },
  tee: { body: ['M-14-6h12l12-12 6 6L6 0l10 12-6 6L-2 6h-12z'], half: 15 },
  adapter: { body: ['M-9-28q4 14 4 22v12q0 8-4 22H9Q5 14 5 6V-6q0-8 4-22z'], half: 9 },
  carburetor: { body: ['M-15-14h30v20h-30z', 'M-10 6h20v14q-10 6-20 0z'], half: 15 },
  fitting: { body: ['M-9-9h4v-3h10v3h4V9H5v3H-5V9h-4z'], half: 9 },
  bulkhead: { body: ['M-3-24h6v48h-6z', 'M-11-8h8V8h-8z', 'M3-8h8V8H3z'], half: 11 },
  box: { body: [RECT(30, 30)], lines: ['M-15-7h30m-30 7h30m-30 7h30'], half: 15 },
  drip: { body: ['M-12-8h24V8H5v18H-5V8h-7z'], half: 12 },
  blower: {
    body: ['M-17 0a17 17 0 1 1 34 0a17 17 0 1 1-34 0z'],
    lines: ['M-8 8 0-10 8 8z'],
    half: 17
  },
  bulb: { body: ['M-20 0q0-12 20-12T20 0 0 12-20 0z'], half: 20 },
  filter: { body: ['M-16-10h32v20h-32z'], lines: ['M-8-10v20m8-20v20m8-20v20'], half: 16 },
  pump: { body: ['M-16-16h32v32h-32z'], lines: ['M-9 9 0-9 9 9z'], half: 16 },
  selector: { body: ['M-16 0 0-16 16 0 0 16z'], lines: ['M0 0 9-9'], half: 16 },
  unknown: { body: [RECT(30, 34)], half: 15 }
};

const OF_KIND: Record<string, string> = {
  first_stage: 'regulator',
  two_stage: 'regulator',
  second_stage: 'regulator',
  line_regulator: 'regulator',
  grill: 'regulator',
  gas_hose: 'hose',
  vapor_hose: 'hose',
  fuel_hose: 'hose',
  pigtail: 'hose',
  shut_off: 'valve',
  tank_valve: 'valve',
  fuel_valve: 'valve',
  load_screw: 'screw',
  mixer: 'adapter',
  gas_inlet: 'fitting',
  manifold: 'fitting',
  scrubber: 'box',
  drip_leg: 'drip',
  booster: 'blower',
  fuel_filter: 'filter',
  fuel_inlet: 'carburetor'
};

export function shapeOf(kind: string, role: string): Shape {
  if (kind === 'gas_half' || kind === 'fuel_half')
    return (role.includes('set') ? SHAPES.half_set : SHAPES.half_supply) as Shape;
  return (SHAPES[OF_KIND[kind] ?? kind] ?? SHAPES.unknown) as Shape;
}
