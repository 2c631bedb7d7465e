'use client';
import { bendOf, fitOf } from '@/core/recipe/setFrames';
import { type Frame, type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { unsureShare } from '@/core/register/parallax/localBend';
import { setBent } from '@/store/edits/sets';
import { Button } from '@/ui/controls/Button';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions } from '../benchContext';
import { FIT_TEXT as TEXT } from './text';

/** Whether a frame is bent so that near and far lie on the reference at once, and what that does. @param frame the one that is compared */
export function BendSection({ scope, frame }: { readonly scope: SetScope; readonly frame: Frame }) {
  const actions = useActions();
  const { set } = scope;
  const bent = set.bent ?? [];
  const isBent = bent.includes(frame.id);
  const bend = bendOf(scope, frame);
  const isLookedAt = scope.made[setGraph(scope).bends.get(frame.id) ?? ''] !== undefined;
  const others = scope.frames.filter((f) => f.used && f.id !== set.reference && fitOf(scope, f)?.fitted);
  const all = others.length > 1 && others.every((f) => bent.includes(f.id));
  return (
    <Section title={TEXT.nearFar}>
      <Toggle
        label={TEXT.bendOne(frame.file)}
        value={isBent}
        onChange={(on) =>
          actions.edit(
            on ? `Bent ${frame.file} to near and far` : `Took the bend of ${frame.file} back`,
            setBent(set.id, on ? [...bent, frame.id] : bent.filter((id) => id !== frame.id)),
          )
        }
      />
      {others.length > 1 && (
        <Row>
          <Button
            onPress={() =>
              actions.edit(
                all ? 'No frame is bent' : 'Bent all frames to near and far',
                setBent(set.id, all ? [] : [...new Set([...bent, ...others.map((f) => f.id)])]),
              )
            }
          >
            {all ? TEXT.bendNone : TEXT.bendAll}
          </Button>
        </Row>
      )}
      {isBent && bend ? (
        <Hint>
          {TEXT.bentBy(
            bend.bends.typical,
            bend.bends.most,
            bend.residual.typical,
            100 * bend.agreement.before,
            100 * bend.agreement.after,
          )}{' '}
          {bend.unsure.length > 0 && TEXT.unsure(100 * unsureShare(bend))}
        </Hint>
      ) : (
        <Hint>{isBent && isLookedAt ? TEXT.bendNothing : TEXT.bendHint}</Hint>
      )}
    </Section>
  );
}
