'use client';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { type Adjust, adjusts } from '@/core/match/adjust';
import { type AdjustTarget } from '@/store/edits';
import { Thumbnail } from '@/ui/Thumbnail';
import { COLOUR, focusRing, FONT } from '@/ui/tokens';
import { useActions, useBench } from '../benchContext';
import { MATCH_TEXT as TEXT } from './text';

const Strip = styled.div`
  height: 100%;
  padding: 7px 14px 0;
  min-width: 0;
  h2 {
    font-size: 13px;
    font-weight: 600;
    margin-bottom: 3px;
  }
  ul {
    display: flex;
    gap: 10px;
    overflow-x: auto;
    padding: 3px;
  }
`;

const Card = styled(Button)`
  display: block;
  width: 138px;
  flex: none;
  padding: 0 0 5px;
  border: 1px solid ${COLOUR.line};
  background: ${COLOUR.raised};
  text-align: left;
  cursor: default;
  canvas {
    display: block;
    width: 100%;
    height: 74px;
    object-fit: cover;
  }
  &[aria-pressed='true'] {
    border-color: ${COLOUR.act};
    box-shadow: 0 0 0 2px ${COLOUR.act};
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: 3px;
  }
  b {
    display: block;
    padding: 4px 8px 0;
    font-weight: 600;
    font-size: 12px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    display: block;
    padding: 0 8px;
    font: 10.5px/1.45 ${FONT.number};
    color: ${COLOUR.quiet};
    white-space: nowrap;
  }
`;

function described(adjust: Adjust): string {
  const zones = adjust.zones.filter((z) => z.by !== 0).length;
  const parts = [
    adjust.neutral ? 'neutral' : '',
    zones > 0 ? `${zones} ${zones === 1 ? 'zone' : 'zones'}` : '',
    adjust.saturation === 1 ? '' : `${Math.round(100 * adjust.saturation)} %`,
  ].filter(Boolean);
  return adjusts(adjust) ? parts.join(' · ') : 'unchanged';
}

/** What can be matched by itself, and what was done to it. */
export function MatchTray() {
  const { project, target, merged, decoded } = useBench((s) => ({
    project: s.history.project,
    target: s.session.target,
    merged: s.merged,
    decoded: s.decoded,
  }));
  const actions = useActions();
  const small = merged?.scene.levels[merged.scene.levels.length - 1];
  const entries: { target: AdjustTarget; name: string; adjust: Adjust; frame?: string }[] = [
    { target: { kind: 'set' }, name: TEXT.targets.set, adjust: project.match.set },
    ...project.layers.map((l) => ({
      target: { kind: 'layer' as const, id: l.id },
      name: `Layer ${l.name}`,
      adjust: l.adjust,
      ...(l.source.kind === 'frame' ? { frame: l.source.frame } : {}),
    })),
    { target: { kind: 'whole' }, name: TEXT.targets.whole, adjust: project.match.whole },
  ];
  const same = (a: AdjustTarget): boolean => JSON.stringify(a) === JSON.stringify(target);
  return (
    <Strip>
      <h2>{TEXT.target}</h2>
      <ul>
        {entries.map((entry) => {
          const hash = project.frames.find((f) => f.id === entry.frame)?.hash;
          const levels = hash ? decoded[hash]?.levels : undefined;
          const image = levels?.[levels.length - 1] ?? small;
          return (
            <li key={JSON.stringify(entry.target)}>
              <Card aria-pressed={same(entry.target)} onPress={() => actions.go({ target: entry.target })}>
                {image && <Thumbnail image={image} label="" />}
                <b>{entry.name}</b>
                <small>{described(entry.adjust)}</small>
              </Card>
            </li>
          );
        })}
      </ul>
    </Strip>
  );
}
