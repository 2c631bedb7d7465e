'use client';
import { type Space } from '@/core/ground/space';
import { setAir } from '@/store/edits/stand';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions, useBench } from '../benchContext';
import { GROUND_TEXT as TEXT } from './text';

/** metres that the share which is lost is told for */
const WAY = 100;
/** the thickest air that a slider reaches, share lost */
const MOST = 0.98;

/** The air between the camera and what is far. */
export function AirSection({ space: { air } }: { readonly space: Space }) {
  const actions = useActions();
  const tool = useBench((s) => s.tool);
  return (
    <Section title={TEXT.airTitle}>
      {air ? (
        <Measure
          label={TEXT.lost}
          value={1 - Math.exp(-air.beta * WAY)}
          min={0}
          max={MOST}
          step={0.01}
          format={TEXT.percent}
          onChange={(share) =>
            actions.edit(TEXT.hazier, setAir({ ...air, beta: -Math.log(1 - share) / WAY }), TEXT.hazier)
          }
        />
      ) : (
        <Hint>{TEXT.noAir}</Hint>
      )}
      <Row>
        <Button
          aria-pressed={tool === 'near and far'}
          onPress={() => actions.take(tool === 'near and far' ? undefined : 'near and far')}
        >
          {TEXT.pairOfAir}
        </Button>
        {air && <Button onPress={() => actions.edit(TEXT.cleared, setAir(undefined))}>{TEXT.clear}</Button>}
      </Row>
      {tool === 'near and far' && <Hint>{TEXT.pairOfAirHint}</Hint>}
    </Section>
  );
}
