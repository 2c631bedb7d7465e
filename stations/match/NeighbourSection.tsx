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
  const { bench } = useBenchParts();
  const { views } = setGraph(scope);
  const odd = frames.filter(isOdd);
  if (frames.length === 0) return <Hint>{TEXT.apart}</Hint>;
  return (
    <>
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
          {frames.map((own) => {
            const { frame, apart, evened } = own;
            const isAlike = likeOf(scope, frame.id) !== undefined;
            return (
              <tr key={frame.id}>
                <th scope="row">{frame.file}</th>
                <td>{apart.toFixed(1)}</td>
                <td>{evened.toFixed(1)}</td>
                <td>
                  {isAlike && (
                    <Button onPress={() => leaveAsShot(bench, scope, frame, TEXT.left(frame.file))}>
                      {TEXT.leave}
                    </Button>
                  )}
                  {!isAlike && !views.has(frame.id) && isOdd(own) && (
                    <Button
                      // moments may differ on purpose
                      {...(scope.set.kind === 'panorama' ? { 'data-main': '' } : {})}
                      onPress={() => makeLikeNeighbours(bench, scope, own, TEXT.made(frame.file))}
                    >
                      {TEXT.make}
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Lines>
      {odd.map((own) => (
        <Hint key={own.frame.id}>{TEXT.odd(own)}</Hint>
      ))}
      {odd.length === 0 && <Hint>{TEXT.alike}</Hint>}
    </>
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
