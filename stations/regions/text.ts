import { type Dab } from '@/core/cutout/dab';
import { LIMITS } from '@/core/proof/limits';
import { type PartKindName } from '@/core/region/partKinds';
import { type Join } from '@/core/region/region';

/** a rim of less is none, stops */
const LEAST_RIM = 0.02;

/** Words of regions, wherever they are drawn. */
export const REGION_TEXT = {
  where: 'Where',
  everywhere: 'Everywhere',
  nowhere: 'Nowhere yet: paint it in',
  all: 'Reveal all',
  none: 'Hide all',
  add: 'Add a part',
  kinds: {
    strokes: 'Brush',
    thing: 'A thing',
    parted: 'Two dabs',
    tone: 'Tones',
    colour: 'Colours',
    same: 'Like a place',
    saturation: 'Saturation',
    distance: 'Distance',
    sharpness: 'Sharpness',
    noise: 'Noise',
    motion: 'What moved',
    gradient: 'Gradient',
    ellipse: 'Ellipse',
    polygon: 'Outline',
    named: 'Named region',
  } satisfies Readonly<Record<PartKindName, string>>,
  joins: { add: 'and', remove: 'but not', keep: 'only where' } satisfies Readonly<Record<Join, string>>,
  joined: 'Joined by',
  turned: 'Outside of it',
  on: 'counts',
  remove: 'Take the part out',
  shape: 'Its edge',
  edgeChart: 'Tone across the edge',
  edgeWaits: 'Measuring along the edge.',
  noEdge: 'It has too little edge to be measured.',
  edgeSays: (inside: number, outside: number, width: number) => {
    const rim = (stops: number, side: string): string[] =>
      Math.abs(stops) < LEAST_RIM
        ? []
        : [
            `${Math.abs(stops).toFixed(2)} EV ${stops < 0 ? 'darker' : 'lighter'} than both sides just ${side}`,
          ];
    const rims = [...rim(inside, 'inside'), ...rim(outside, 'outside')];
    const seen = Math.max(Math.abs(inside), Math.abs(outside)) >= LIMITS['merge.halo'].watch;
    const says = rims.length > 0 ? `${rims.join(', ')}.${seen ? ' That is seen as a rim.' : ''}` : 'No rim.';
    return `From inside to outside: the middle of all places, and the half of them. ${says} The region fades over ${width < 10 ? width.toFixed(1) : width.toFixed(0)} px.`;
  },
  ownEdge: (own: number, width: number, mendable: boolean) => {
    const px = (v: number): string => (v < 10 ? v.toFixed(1) : v.toFixed(0));
    const apart = width / own;
    const verdict =
      apart > 1.6
        ? `The region is softer.${mendable ? '' : ' “Follow edges” or a harder brush brings it nearer.'}`
        : apart < 0.6
          ? 'The region is harder.'
          : 'Both are alike.';
    return `The picture’s own edge there goes over ${px(own)} px. ${verdict}`;
  },
  matchEdge: 'As soft as the picture’s own',
  specks: (holes: number, crumbs: number, largest: number) => {
    const say = (n: number, one: string): string[] => (n === 0 ? [] : [`${n} ${n === 1 ? one : `${one}s`}`]);
    return `${[...say(holes, 'hole'), ...say(crumbs, 'crumb')].join(' and ')}, the largest ${(2 * largest).toFixed(0)} px across.`;
  },
  nextSpeck: 'Show the next',
  dropSpecks: 'Take them out',
  smooth: 'Smoothed by',
  feather: 'Feather',
  follow: 'Follow edges',
  grow: 'Larger by',
  invert: 'Turn inside out',
  from: 'From',
  to: 'Up to',
  soft: 'Soft ends',
  hue: 'Hue',
  width: 'Either side',
  softHue: 'Soft hues',
  half: 'Half gone at',
  chroma: 'Chroma from',
  draw: {
    gradient: 'Draw it on the picture',
    ellipse: 'Draw it on the picture',
    polygon: 'Press its corners on the picture',
    same: 'Press the place on the picture',
  },
  drawing: {
    gradient: 'Drag from full to nothing',
    ellipse: 'Drag from its middle',
    polygon: 'Press the corners, then here',
    same: 'Press what is meant',
  },
  nextDab: 'The next dab says',
  dabs: { this: 'This', not: 'Not this', edge: 'Undecided' } satisfies Readonly<Record<Dab['is'], string>>,
  dabbing: {
    this: 'Draw across the thing on the picture. A few short dabs on its different colours do.',
    not: 'Draw across what does not belong to it, where the outline went too far.',
    edge: 'Draw over hair, reeds, rigging: there the picture itself says how much of each pixel belongs to it.',
  } satisfies Readonly<Record<Dab['is'], string>>,
  parting: {
    this: 'Draw across what is meant.',
    not: 'Draw across what is not. Marsh finds what tells them apart.',
  },
  pointAgain: 'Choose what the next dab says, then draw it on the picture.',
  dabbed: {
    this: 'Pointed at a thing',
    not: 'Pointed at what it is not',
    edge: 'Left an edge undecided',
  } satisfies Readonly<Record<Dab['is'], string>>,
  dropDab: (number: number, says: string): string => `Take out dab ${number}, “${says.toLowerCase()}”`,
  tooManyDabs: 'This thing has as many dabs as Marsh keeps. Take out those that are not needed first.',
  cutting: 'Looking for its outline …',
  roughCut: 'A first outline; the exact one with its soft edges follows.',
  cut: 'Cut out, soft edges and their colours too.',
  lift: 'Lift it out',
  pointAt: 'Point at a thing',
  sky: 'The sky',
  findingSky: 'Looking for the sky …',
  skyWaits: 'There is no picture yet in which to look for the sky.',
  noSky: 'No sky was found. Point at it with a dab, if there is one.',
  skyFound: (sure: number) => {
    const percent = `${Math.round(100 * sure)} %`;
    if (sure >= 0.75) return `The sky is found, ${percent} sure.`;
    return `This may be the sky: ${percent} sure. Look at its edge; a dab “not this” takes out what went too far.`;
  },
  turn: 'Turned',
  softEdge: 'Soft edge',
  brush: 'Brush',
  actions: { reveal: 'Reveal', hide: 'Hide' },
  dropStroke: (n: number, action: string) => `Take out stroke ${n}, “${action}”`,
  allStrokes: (n: number) => `${n} earlier ones`,
  paint: 'Paint on the picture',
  painting: 'Painting',
  size: 'Size',
  softness: 'Softness',
  flow: 'Flow',
  steady: 'Steady hand',
  alike: 'How far off',
  anyLight: 'In any light',
  inside: 'Stays on what it started on',
  insideStroke: (name: string) => `${name}, inside`,
  brushKeys:
    'Shift draws straight on. Hold n and drag, or n with the arrows: sideways its size, upwards its softness.',
  save: 'Save it as a file',
  bring: 'From a file …',
  brought: 'A region of a file',
  name: 'Give it a name',
  named: 'Its name',
  keepName: 'Keep the name',
  take: 'Use a named region',
  copy: 'a copy',
  same: 'the same',
  shared: 'This region has a name: what is changed here is changed wherever it is used.',
} as const;
