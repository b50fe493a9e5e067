/** Our own drawings of a set by its class, and where each place of the walk is on them. */

export type Kind = 'case' | 'frame' | 'twin' | 'slow' | 'engine';
export type Tone = 'body' | 'line' | 'fin' | 'hot' | 'fuel' | 'plain';
interface Part {
  d: string;
  tone: Tone;
}

const part = (tone: Tone, d: string): Part => ({ d, tone });
const KINDS: Record<string, Kind> = {
  inverter_small: 'case',
  inverter: 'case',
  v_twin: 'twin',
  low_speed: 'slow',
  engine: 'engine'
};

/** Which drawing a class has; an open frame where nothing is said. */
export const kindOf = (setClass: string): Kind => KINDS[setClass] ?? 'frame';

const box = (x: number, y: number, w: number, h: number) => `M${x} ${y}h${w}v${h}h${-w}z`;
const round = (x: number, y: number, r: number) =>
  `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`;
/** A receptacle: a square with its slots. */
const socket = (x: number, y: number) =>
  `${box(x, y, 22, 18)}M${x + 8} ${y + 6}v6M${x + 14} ${y + 6}v6`;
const fins = (x: number, y: number, w: number, count: number, step: number) =>
  Array.from({ length: count }, (_, at) => `M${x} ${y + at * step}h${w}`).join('');

const TUBES = [
  part('line', 'M26 190V44q0-10 10-10h248q10 0 10 10v146'),
  part('line', 'M20 190h44M256 190h44M26 178h268')
];
const ENGINE = [
  part('body', box(176, 108, 74, 60)),
  part('plain', box(190, 80, 46, 28)),
  part('fin', fins(190, 86, 46, 4, 6)),
  part('line', round(213, 138, 20))
];

export const ART: Record<Kind, readonly Part[]> = {
  case: [
    part('body', 'M44 190V70q0-26 26-26h180q26 0 26 26v120z'),
    part('line', 'M96 44V28q0-8 8-8h112q8 0 8 8v16'),
    part('fuel', 'M138 44v-10h44v10z'),
    part('plain', box(60, 84, 70, 62)),
    part('line', `${socket(68, 94)}${socket(68, 120)}`),
    part('line', `${round(112, 103, 9)}M112 94v9M102 126h20v10h-20z`),
    part('line', box(150, 70, 108, 104)),
    part('fin', fins(164, 84, 80, 5, 7)),
    part('hot', box(258, 128, 18, 34))
  ],
  frame: [
    ...TUBES,
    part('fuel', 'M58 40h176q8 0 8 8v22H50V48q0-8 8-8z'),
    part('line', 'M128 40v-10h28v10z'),
    ...ENGINE,
    part('body', box(46, 92, 62, 84)),
    part('line', `${socket(52, 100)}${socket(52, 126)}${socket(52, 152)}${round(92, 110, 7)}`),
    part('body', box(112, 112, 60, 56)),
    part('fin', 'M124 112v56M136 112v56M148 112v56M160 112v56'),
    part('hot', 'M250 84h30v34h-30z'),
    part('plain', 'M176 92h-30v18h30z')
  ],
  twin: [
    ...TUBES,
    part('fuel', 'M58 40h204q6 0 6 6v16H52V46q0-6 6-6z'),
    part('body', box(158, 118, 92, 56)),
    part('plain', 'M168 118l-22-38 34-18 22 40z'),
    part('plain', 'M240 118l22-38-34-18-22 40z'),
    part('fin', 'M152 86l32-16M158 96l32-16M256 86l-32-16M250 96l-32-16'),
    part('line', round(204, 148, 18)),
    part('body', box(42, 92, 60, 84)),
    part('line', `${socket(48, 100)}${socket(48, 126)}${socket(48, 152)}${round(88, 110, 7)}`),
    part('body', box(104, 120, 52, 50)),
    part('hot', 'M262 100h22v38h-22z'),
    part('plain', box(188, 66, 32, 22))
  ],
  slow: [
    part('line', 'M16 186h288M28 186v-10M292 186v-10'),
    part('body', box(150, 92, 96, 84)),
    part('plain', box(168, 58, 56, 34)),
    part('fin', fins(168, 64, 56, 4, 7)),
    part('line', round(198, 134, 28)),
    part('body', box(60, 108, 88, 64)),
    part('fin', 'M76 108v64M92 108v64M108 108v64M124 108v64'),
    part('plain', box(30, 70, 60, 36)),
    part('line', `${socket(36, 78)}${round(78, 86, 6)}`),
    part('fuel', box(96, 48, 60, 26)),
    part('hot', 'M246 74h44v20h-44zM290 84v-34'),
    part('plain', box(136, 76, 30, 20))
  ],
  engine: [
    part('line', 'M60 186h200M76 186v-10h168v10'),
    part('body', box(120, 92, 100, 84)),
    part('plain', box(140, 54, 60, 38)),
    part('fin', fins(140, 60, 60, 5, 7)),
    part('fuel', 'M112 30h96q8 0 8 8v14H104V38q0-8 8-8z'),
    part('line', round(170, 134, 28)),
    part('line', 'M220 134h26M246 108v52'),
    part('body', round(262, 134, 20)),
    part('plain', box(84, 78, 48, 30)),
    part('hot', 'M200 62h40v20h-40z')
  ]
};

/** Where each place is on its drawing, of 320 by 208. */
export const SPOTS: Record<Kind, Record<string, readonly [number, number]>> = {
  case: {
    plate: [96, 172],
    history: [20, 40],
    controls: [96, 116],
    tank: [160, 36],
    carburetor: [186, 142],
    studs: [222, 142],
    room: [242, 92]
  },
  frame: {
    plate: [142, 154],
    history: [18, 18],
    controls: [76, 130],
    tank: [190, 55],
    carburetor: [156, 100],
    studs: [192, 118],
    room: [222, 92]
  },
  twin: {
    plate: [130, 148],
    history: [18, 18],
    controls: [72, 130],
    tank: [110, 50],
    carburetor: [204, 78],
    studs: [204, 108],
    room: [242, 132]
  },
  slow: {
    plate: [104, 142],
    history: [20, 28],
    controls: [58, 88],
    tank: [126, 60],
    carburetor: [148, 90],
    studs: [182, 106],
    room: [214, 76]
  },
  engine: {
    plate: [140, 162],
    history: [24, 40],
    controls: [208, 160],
    tank: [160, 38],
    carburetor: [104, 94],
    studs: [138, 108],
    room: [184, 76]
  }
};
