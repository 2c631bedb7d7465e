import { css } from 'styled-components';

/** Colours and measures of the bench: neutral surfaces, so that nothing tints the judgement of a picture. */
export const COLOUR = {
  table: '#757575',
  panel: '#dededc',
  raised: '#ebebe9',
  sunken: '#d0d0cd',
  line: '#b4b4b0',
  control: '#6d6d69',
  ink: '#1b1b1a',
  quiet: '#51514e',
  act: '#0d5566',
  onAct: '#ffffff',
  pass: '#2d5f3a',
  watch: '#9a5200',
  fail: '#9b1c1a',
} as const;

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
export const touchable = css`
  min-height: 30px;
  @media (pointer: coarse) {
    min-height: 44px;
  }
`;
