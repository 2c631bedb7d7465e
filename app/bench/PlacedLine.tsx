'use client';
import { X } from 'lucide-react';
import { styled } from 'styled-components';
import { replaceFrames } from '@/store/placeFrames';
import { useActions, useBench, useBenchParts, useProject } from '@/stations/benchContext';
import { Button } from '@/ui/controls/Button';
import { COLOUR } from '@/ui/tokens';

const Line = styled.div`
  pointer-events: auto;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
  max-width: 100%;
  padding: 6px 6px 6px 12px;
  background: ${COLOUR.raised};
  border: 1px solid ${COLOUR.control};
  box-shadow: inset 4px 0 0 ${COLOUR.act};
`;

/** Where pictures went that came to others, why, and where else they may go. */
export function PlacedLine() {
  const placed = useBench((s) => s.placed);
  const project = useProject();
  const { bench } = useBenchParts();
  const actions = useActions();
  const frames = project.frames.filter((f) => placed?.frames.includes(f.id));
  // taken back, or taken out: there is nothing to ask any more
  if (!placed || frames.length === 0) return null;
  const { destination, why } = placed;
  const [first] = frames;
  const what = frames.length === 1 ? `“${first.file}”` : `${frames.length} pictures`;
  const holder = project.sets.find((s) => s.frames.includes(first.id));
  const where =
    destination.kind === 'plates'
      ? `${frames.length === 1 ? 'lies' : 'lie'} over the picture as ${frames.length === 1 ? 'a layer' : 'layers'}`
      : destination.kind === 'own'
        ? `came as a set of their own, “${holder?.name ?? ''}”`
        : `joined “${holder?.name ?? ''}”`;
  const move = (to: Parameters<typeof replaceFrames>[2]): void => {
    actions.placedSeen();
    void replaceFrames(bench, placed.frames, to);
  };
  const leftOver = (id: string): boolean =>
    project.sets.some((s) => s.id === id && s.frames.some((f) => !placed.frames.includes(f)));
  return (
    <Line role="status" aria-label="Where the pictures went">
      <span>
        {what} {where}: {why}.
      </span>
      {project.sets
        .filter((s) => s.id !== holder?.id && leftOver(s.id))
        .map((s) => (
          <Button key={s.id} onPress={() => move({ kind: 'set', id: s.id })}>
            Into “{s.name}”
          </Button>
        ))}
      {destination.kind !== 'own' && frames.length > 1 && (
        <Button onPress={() => move({ kind: 'own' })}>A set of their own</Button>
      )}
      {destination.kind !== 'plates' && (
        <Button onPress={() => move({ kind: 'plates' })}>
          {frames.length === 1 ? 'By itself, as a layer' : 'Each by itself, as layers'}
        </Button>
      )}
      <Button data-plain aria-label="Well placed" onPress={actions.placedSeen}>
        <X aria-hidden />
      </Button>
    </Line>
  );
}
