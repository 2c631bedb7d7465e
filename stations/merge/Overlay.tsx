'use client';
import { styled } from 'styled-components';
import { FRAME_COLOURS } from '@/core/view/frameColours';
import { FONT } from '@/ui/tokens';
import { useBench, useFrames } from '../benchContext';

const Legend = styled.ul`
  position: absolute;
  left: 12px;
  bottom: 12px;
  display: flex;
  gap: 12px;
  padding: 4px 9px;
  background: rgba(27, 27, 26, 0.82);
  color: #f2f2f0;
  font: 11px ${FONT.number};
  pointer-events: none;
  li {
    display: flex;
    align-items: center;
    gap: 5px;
  }
  i {
    width: 11px;
    height: 11px;
  }
`;

/** The colours of the origin view. */
export function MergeOverlay() {
  const { look, merged } = useBench((s) => ({ look: s.session.look, merged: s.merged }));
  const frames = useFrames();
  if (look !== 'origin' || !merged) return null;
  return (
    <Legend aria-label="Colours of the frames">
      {merged.scene.frames.map((id, i) => (
        <li key={id}>
          <i style={{ background: `rgb(${FRAME_COLOURS[i % FRAME_COLOURS.length].join(' ')})` }} />
          {frames.find((f) => f.frame.id === id)?.name}
        </li>
      ))}
    </Legend>
  );
}
