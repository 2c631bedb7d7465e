'use client';
import { X } from 'lucide-react';
import { styled } from 'styled-components';
import { FRAME_COLOURS } from '@/core/view/frameColours';
import { mergedFrames } from '@/core/recipe/setFrames';
import { setFrameDabs } from '@/store/edits/sets';
import { Button } from '@/ui/controls/Button';
import { Hint, Row, Section } from '@/ui/Section';
import { COLOUR } from '@/ui/tokens';
import { useActions, useBench, useFrames, useScope } from '../benchContext';
import { frameInHand, toolOfFrame } from './frameInHand';
import { SEAM_TEXT as TEXT } from './text';

const Chip = styled.i`
  width: 10px;
  height: 10px;
  border: 1px solid ${COLOUR.ink};
`;

/** Takes places from one frame: which frame is in hand, and what was pointed out so far. */
export function SeamSection() {
  const scope = useScope();
  const frames = useFrames();
  const inHand = useBench((s) => frameInHand(s.tool));
  const actions = useActions();
  if (!scope) return null;
  const { id, dabs = [] } = scope.set;
  const merged = mergedFrames(scope).map((m) => m.frame.id);
  const offered = frames.filter(({ frame }) => merged.includes(frame.id));
  if (offered.length < 2) return null;
  const nameOf = (frame: string): string => frames.find((f) => f.frame.id === frame)?.name ?? TEXT.away;
  const colourOf = (frame: string): string =>
    `rgb(${FRAME_COLOURS[Math.max(0, merged.indexOf(frame)) % FRAME_COLOURS.length].join(' ')})`;
  return (
    <Section title={TEXT.title}>
      <Row role="group" aria-label={TEXT.title}>
        {offered.map(({ frame, name }) => (
          <Button
            key={frame.id}
            aria-pressed={inHand === frame.id}
            {...(inHand === frame.id ? { 'data-main': true } : {})}
            onPress={() => {
              const drops = inHand === frame.id;
              actions.take(drops ? undefined : toolOfFrame(frame.id));
              actions.go(drops ? { look: 'result' } : { look: 'fitted', frame: frame.id });
            }}
          >
            <Chip style={{ background: colourOf(frame.id) }} aria-hidden />
            {name}
          </Button>
        ))}
      </Row>
      <Hint>{inHand === undefined ? TEXT.hint : TEXT.inHand(nameOf(inHand))}</Hint>
      {dabs.length > 0 && (
        <Row>
          {dabs.map((dab, i) => (
            <Button
              key={i}
              data-plain
              aria-label={TEXT.drop(i + 1, nameOf(dab.frame))}
              onPress={() =>
                actions.edit(
                  TEXT.drop(i + 1, nameOf(dab.frame)),
                  setFrameDabs(
                    id,
                    dabs.filter((_, k) => k !== i),
                  ),
                )
              }
            >
              {i + 1} {nameOf(dab.frame)} <X size={12} aria-hidden />
            </Button>
          ))}
        </Row>
      )}
    </Section>
  );
}
