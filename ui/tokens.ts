import { css } from 'styled-components';

/** Colours of the bench by name; which they are is the surround's matter. */
const NAMES = [
  'table',
  'panel',
  'raised',
  'sunken',
  'hover',
  'field',
  'line',
  'control',
  'ink',
  'quiet',
  'act',
  'actHover',
  'onAct',
  'pass',
  'watch',
  'fail',
] as const;

export type ColourName = (typeof NAMES)[number];

/** Colours as styles name them. */
export const COLOUR = Object.fromEntries(NAMES.map((name) => [name, `var(--${name})`])) as Readonly<
  Record<ColourName, string>
>;

/** How light it is around the picture: neutral in every case, so that nothing tints the judgement (ISO 3664). */
export const SURROUNDS = {
  light: {
    table: '#757575',
    panel: '#dededc',
    raised: '#ebebe9',
    sunken: '#d0d0cd',
    hover: '#f6f6f5',
    field: '#ffffff',
    line: '#b4b4b0',
    control: '#6d6d69',
    ink: '#1b1b1a',
    quiet: '#51514e',
    act: '#0d5566',
    actHover: '#0a4755',
    onAct: '#ffffff',
    pass: '#2d5f3a',
    watch: '#9a5200',
    fail: '#9b1c1a',
  },
  mid: {
    table: '#757575',
    panel: '#a3a3a0',
    raised: '#b2b2af',
    sunken: '#929290',
    hover: '#bdbdba',
    field: '#cacac7',
    line: '#828280',
    control: '#4d4d4a',
    ink: '#111110',
    quiet: '#2c2c2a',
    act: '#073f4d',
    actHover: '#05323d',
    onAct: '#ffffff',
    pass: '#143f1f',
    watch: '#5c3000',
    fail: '#6e1110',
  },
  dim: {
    table: '#464645',
    panel: '#2f2f2e',
    raised: '#3b3b39',
    sunken: '#262625',
    hover: '#474745',
    field: '#222221',
    line: '#545452',
    control: '#93938f',
    ink: '#ededeb',
    quiet: '#bdbdb9',
    act: '#72c4d6',
    actHover: '#92d3e1',
    onAct: '#0c1a1e',
    pass: '#93cda2',
    watch: '#e9ab6c',
    fail: '#f29d9a',
  },
} as const satisfies Record<string, Record<ColourName, string>>;

export type Surround = keyof typeof SURROUNDS;

/** The colour that a name stands for now, for canvases. */
export function colourNow(name: ColourName): string {
  // asking the document for it would lay the whole page out first
  return SURROUNDS[surroundNow()][name];
}

/** How light it is around the picture now, as the document says. */
export function surroundNow(): Surround {
  const own = typeof document === 'undefined' ? undefined : document.documentElement.dataset.surround;
  return isSurround(own) ? own : 'light';
}

export const isSurround = (value: string | null | undefined): value is Surround =>
  typeof value === 'string' && value in SURROUNDS;

export const FONT = {
  text: "'IBM Plex Sans', system-ui, sans-serif",
  number: "'IBM Plex Mono', ui-monospace, monospace",
} as const;

/** The ring that shows where the keyboard is. */
export const focusRing = css`
  outline: 2px solid ${COLOUR.act};
  outline-offset: 2px;
`;

/** Controls grow to 44 px where they are touched. */
/** A small tablet held upright, and one in either way: the trail is a strip, the panel folds. */
export const UPRIGHT = '@media (max-width: 860px)';
export const TABLET = '@media (max-width: 860px), (pointer: coarse) and (max-width: 1180px)';

export const touchable = css`
  min-height: 30px;
  @media (pointer: coarse) {
    min-height: 44px;
  }
`;
