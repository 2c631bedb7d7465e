'use client';
import { styled } from 'styled-components';
import { Button, MenuTrigger } from 'react-aria-components';
import { type Mover } from '@/core/merge/movers/mover';
import { FRAME_COLOURS } from '@/core/view/frameColours';
import { chooseMover } from '@/store/edits/sets';
import { ActionList } from '@/ui/controls/ActionList';
import { formatStops } from '@/ui/formatFinding';
import { toTable } from '@/ui/table/viewport';
import { FONT } from '@/ui/tokens';
import { useActions, useBench, useFrames, useMerged, useScope } from '../benchContext';
import { OverlaySvg, PlaceMark } from '../overlay/PlaceMark';
import { FrameDabMarks, type FrameDabMarksProps } from './FrameDabMarks';
import { MERGE_TEXT as TEXT } from './text';

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

const Marker = styled(Button)`
  position: absolute;
  margin: -1px 0 0 -1px;
  padding: 0 6px;
  min-height: 20px;
  border: 1px solid #1b1b1a;
  background: rgba(242, 242, 240, 0.92);
  color: #1b1b1a;
  font: 11px ${FONT.number};
  cursor: default;
  white-space: nowrap;
  &[data-hovered] {
    background: #fff;
  }
  &[data-focus-visible] {
    outline: 2px solid #fff;
    outline-offset: 1px;
  }
  @media (pointer: coarse) {
    min-height: 44px;
  }
`;

/** More markers than this would hide the picture; the panel counts them all. */
const MOST_MARKERS = 14;

/** The colours of the origin view, and what moved with the frame that makes it. */
export function MergeOverlay({ viewport, table, drawn }: FrameDabMarksProps) {
  const look = useBench((s) => s.session.look);
  const merged = useMerged();
  const frames = useFrames();
  if (!merged) return null;
  const nameOf = (id: string): string => frames.find((f) => f.frame.id === id)?.name ?? '';
  const largest = merged.movers
    .map((mover, i) => ({ mover, number: i + 1 }))
    .sort((a, b) => b.mover.area - a.mover.area)
    .slice(0, MOST_MARKERS);
  return (
    <>
      <FrameDabMarks viewport={viewport} table={table} drawn={drawn} />
      {(look === 'result' || look === 'origin') && (
        <>
          <OverlaySvg aria-hidden>
            {largest.map(({ mover, number }) => (
              <PlaceMark key={number} place={mover.box} viewport={viewport} table={table} />
            ))}
          </OverlaySvg>
          {largest.map(({ mover, number }) => {
            const [left, top] = toTable(viewport, table, mover.box.x, mover.box.y);
            return (
              <MoverMenu
                key={number}
                mover={mover}
                name={nameOf(merged.scene.frames[mover.frame])}
                number={number}
                left={left}
                top={top}
              />
            );
          })}
        </>
      )}
      {look === 'origin' && (
        <Legend aria-label="Colours of the frames">
          {merged.scene.frames.map((id, i) => (
            <li key={id}>
              <i style={{ background: `rgb(${FRAME_COLOURS[i % FRAME_COLOURS.length].join(' ')})` }} />
              {nameOf(id)}
            </li>
          ))}
        </Legend>
      )}
    </>
  );
}

interface MoverMenuProps {
  readonly mover: Mover;
  /** of the frame that makes it now */
  readonly name: string;
  readonly number: number;
  readonly left: number;
  readonly top: number;
}

/** A mover on the picture: says which frame makes it, and offers the others. */
function MoverMenu({ mover, name, number, left, top }: MoverMenuProps) {
  const frames = useFrames();
  const merged = useMerged();
  const set = useScope()?.set.id ?? '';
  const actions = useActions();
  const [x, y] = [mover.seed.x, mover.seed.y];
  const choose = (id: string): void => {
    const chosen = frames.find((f) => f.frame.id === id);
    actions.edit(
      chosen ? `Mover ${number} from ${chosen.name.toLowerCase()}` : `Mover ${number} blended`,
      chooseMover(set, x, y, chosen ? id : ''),
    );
  };
  const offered = frames.filter(({ frame }) => merged?.scene.frames.includes(frame.id));
  return (
    <MenuTrigger>
      <Marker
        aria-label={`Mover ${number}, from ${name}`}
        style={{ left, top: Math.max(0, top - ABOVE) }}
        onPointerDown={(event) => event.stopPropagation()}
      >
        {number} · {name}
      </Marker>
      <ActionList
        label={TEXT.mover}
        items={[
          ...offered.map(({ frame, name: offer }) => ({
            id: frame.id,
            name: offer,
            note: `${formatStops(frame.stops - zeroOf(frames))}`,
          })),
          { id: BLEND, name: TEXT.blend, note: '' },
        ]}
        onAction={choose}
      />
    </MenuTrigger>
  );
}

const BLEND = 'blend-all';
/** the marker stands on its place, not over it */
const ABOVE = 23;

function zeroOf(frames: ReturnType<typeof useFrames>): number {
  return frames.find((f) => f.isReference)?.frame.stops ?? 0;
}
