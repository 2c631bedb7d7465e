import { styled } from 'styled-components';
import { COLOUR, FONT } from '@/ui/tokens';

/** What rails with handles on them are drawn in. */
export const Ladder = styled.svg`
  display: block;
  width: 100%;
  overflow: visible;
  touch-action: none;
  text {
    font: 10px ${FONT.number};
    fill: ${COLOUR.quiet};
  }
  g[role='slider'] {
    cursor: ew-resize;
    outline: none;
  }
  g[role='slider']:focus-visible circle,
  g[role='slider']:focus-visible path[data-knob] {
    stroke: ${COLOUR.act};
    stroke-width: 3;
  }
`;

export const LADDER_WIDTH = 280;
