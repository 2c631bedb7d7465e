'use client';
import { createGlobalStyle } from 'styled-components';
import { COLOUR, FONT, type Surround, SURROUNDS } from './tokens';

const variables = (surround: Surround): string =>
  Object.entries(SURROUNDS[surround])
    .map(([name, value]) => `--${name}: ${value};`)
    .join(' ');

export const GlobalStyle = createGlobalStyle`
  :root { ${variables('light')} color-scheme: light; }
  :root[data-surround='mid'] { ${variables('mid')} }
  :root[data-surround='dim'] { ${variables('dim')} color-scheme: dark; }
  *, *::before, *::after { box-sizing: border-box; }
  html, body { margin: 0; height: 100%; }
  body {
    background: ${COLOUR.panel};
    color: ${COLOUR.ink};
    font: 400 13px/1.4 ${FONT.text};
    -webkit-font-smoothing: antialiased;
  }
  h1, h2, h3, p, ul, ol, dl, dd { margin: 0; padding: 0; }
  ul, ol { list-style: none; }
  button, input, select { font: inherit; color: inherit; }
`;
