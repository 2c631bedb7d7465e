'use client';
import { useEffect, useState } from 'react';
import { mergedFrames } from '@/core/recipe/setFrames';
import { type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import {
  ALIKE_KINDS,
  areDrawn,
  isOdd,
  leaveAsShot,
  likeOf,
  makeLikeNeighbours,
  type Neighbour,
  neighbourKey,
  neighboursOf,
} from '@/store/neighbours';
import { Button } from '@/ui/controls/Button';
import { Hint, Section } from '@/ui/Section';
import { useBench, useBenchParts } from '../benchContext';
import { Lines } from '../edits/Lines';
import { MATCH_TEXT } from './text';

const TEXT = MATCH_TEXT.neighbours;
const STILL_MS = 400;

/** The frames of a set beside each other: which of them is off, and what brings it back. */
export function NeighbourSection({ scope }: { readonly scope: SetScope }) {
  const frames = useNeighbours(scope);
  if (!ALIKE_KINDS.has(scope.set.kind) || mergedFrames(scope).length < 2) return null;
  return (
    <Section title={TEXT.title}>
      {frames ? <NeighbourTable scope={scope} frames={frames} /> : <Hint>{TEXT.measuring}</Hint>}
    </Section>
  );
}

interface NeighbourTableProps {
  readonly scope: SetScope;
  readonly frames: readonly Neighbour[];
}

function NeighbourTable({ scope, frames }: NeighbourTableProps) {
  if (frames.length === 0) return <Hint>{TEXT.apart}</Hint>;
  const odd = frames.filter(isOdd);
  const told = frames.filter((own) => isOdd(own) || likeOf(scope, own.frame.id));
  const rest = frames.filter((own) => !told.includes(own));
  return (
    <>
      {odd.map((own) => (
        <Hint key={own.frame.id}>{TEXT.odd(own)}</Hint>
      ))}
      {odd.length === 0 && <Hint>{TEXT.alike}</Hint>}
      {told.length > 0 && <NeighbourLines scope={scope} frames={told} />}
      {rest.length > 0 && (
        <details>
          <summary>{TEXT.rest(rest.length)}</summary>
          <NeighbourLines scope={scope} frames={rest} />
        </details>
      )}
    </>
  );
}

/** How far frames are off, and what is done about it. */
function NeighbourLines({ scope, frames }: NeighbourTableProps) {
  return (
    <Lines>
      <thead>
        <tr>
          <th scope="col">{TEXT.frame}</th>
          <td>{TEXT.off}</td>
          <td>{TEXT.evened}</td>
          <td aria-label={TEXT.change} />
        </tr>
      </thead>
      <tbody>
        {frames.map((own) => (
          <tr key={own.frame.id}>
            <th scope="row">{own.frame.file}</th>
            <td>{own.apart.toFixed(1)}</td>
            <td>{own.evened.toFixed(1)}</td>
            <td>
              <NeighbourChange scope={scope} own={own} />
            </td>
          </tr>
        ))}
      </tbody>
    </Lines>
  );
}

/** Makes an odd frame like its neighbours, or leaves one as it was shot again. */
function NeighbourChange({ scope, own }: { readonly scope: SetScope; readonly own: Neighbour }) {
  const { bench } = useBenchParts();
  const { frame } = own;
  if (likeOf(scope, frame.id))
    return (
      <Button onPress={() => leaveAsShot(bench, scope, frame, TEXT.left(frame.file))}>{TEXT.leave}</Button>
    );
  // the head of a bracket stands for all of it
  if (setGraph(scope).views.has(frame.id) || !isOdd(own)) return null;
  return (
    <Button
      // moments may differ on purpose
      {...(scope.set.kind === 'panorama' ? { 'data-main': '' } : {})}
      onPress={() => makeLikeNeighbours(bench, scope, own, TEXT.made(frame.file))}
    >
      {TEXT.make}
    </Button>
  );
}

/** What the frames of a set differ by, once that is measured; anew when one of them has changed. */
function useNeighbours(scope: SetScope): readonly Neighbour[] | undefined {
  const { bench } = useBenchParts();
  const [measured, setMeasured] = useState<{ key: string; frames: readonly Neighbour[] }>();
  const isAlike = ALIKE_KINDS.has(scope.set.kind);
  const key = neighbourKey(scope);
  // frames that are still being prepared are not what will be merged
  const isReady = useBench((s) => areDrawn(s, scope));
  const { id } = scope.set;
  useEffect(() => {
    if (!isAlike || !isReady) return;
    const controller = new AbortController();
    const timer = setTimeout(() => {
      neighboursOf(bench, id, { signal: controller.signal, priority: -2 })
        .then((frames) => setMeasured({ key, frames }))
        .catch(() => undefined);
    }, STILL_MS);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [bench, id, isAlike, isReady, key]);
  return measured?.key === key ? measured.frames : undefined;
}
