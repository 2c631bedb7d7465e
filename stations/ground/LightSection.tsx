'use client';
import { styled } from 'styled-components';
import { asSeen } from '@/core/ground/standFindings';
import { type LightColour } from '@/core/ground/light';
import { type Space } from '@/core/ground/space';
import { coverSun, setLight, turnSun } from '@/store/edits/stand';
import { type PlateOnGround } from '@/store/standingPlates';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions, useBench } from '../benchContext';
import { LightBall } from './LightBall';
import { GROUND_TEXT as TEXT } from './text';

const grey = ([r, g, b]: LightColour): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;
const LEAST = 1e-4;

export interface LightSectionProps {
  readonly space: Space;
  readonly plate: PlateOnGround | undefined;
}

/** The one light of everything: where the sun is, how strong against the sky, and both lights on a ball. */
export function LightSection({ space, plate }: LightSectionProps) {
  const actions = useActions();
  const tool = useBench((s) => s.tool);
  const { light, unlit = false } = space;
  const { sun } = light;
  const { standing } = plate ?? {};
  // as it is seen: one that lies mirrored is lit from its other side
  const own = standing && {
    ...standing.from,
    ...(standing.from.sun ? { sun: asSeen(standing.from.sun, standing.matrix) } : {}),
  };
  const turn = (label: string, to: Parameters<typeof turnSun>[0]): void =>
    actions.edit(label, turnSun(to), label);
  const stops = sun && Math.log2(Math.max(LEAST, grey(sun.colour)) / Math.max(LEAST, grey(light.sky)));
  const strengthen = (to: number): void => {
    if (!sun || stops === undefined) return;
    const by = 2 ** (to - stops);
    const [r, g, b] = sun.colour;
    actions.edit(
      TEXT.strength,
      setLight({ sun: { ...sun, colour: [r * by, g * by, b * by] } }),
      TEXT.strength,
    );
  };
  return (
    <Section title={TEXT.light}>
      <Balls>
        <LightBall rig={light} label={TEXT.scene} />
        {plate && own && <LightBall rig={own} label={TEXT.own(plate.layer.name)} />}
      </Balls>
      {unlit && <Hint>{TEXT.unlit}</Hint>}
      <Measure
        label={TEXT.sunFrom}
        value={sun?.azimuth ?? 0}
        min={-180}
        max={180}
        step={1}
        format={TEXT.from360}
        onChange={(azimuth) => turn(TEXT.sunFrom, { azimuth })}
      />
      <Measure
        label={TEXT.sunUp}
        value={sun?.elevation ?? 0}
        min={0}
        max={90}
        step={1}
        format={(v) => `${Math.round(v)}°`}
        onChange={(elevation) => turn(TEXT.sunUp, { elevation })}
      />
      {stops !== undefined && (
        <Measure
          label={TEXT.strength}
          value={Math.min(6, Math.max(-4, stops))}
          min={-4}
          max={6}
          step={0.1}
          format={TEXT.stops}
          onChange={strengthen}
        />
      )}
      <Row>
        <Button
          aria-pressed={tool === 'lit and shaded'}
          onPress={() => actions.take(tool === 'lit and shaded' ? undefined : 'lit and shaded')}
        >
          {TEXT.pair}
        </Button>
        {sun && <Button onPress={() => actions.edit(TEXT.tookSun, coverSun)}>{TEXT.takeSun}</Button>}
      </Row>
      {tool === 'lit and shaded' && <Hint>{TEXT.pairHint}</Hint>}
    </Section>
  );
}

const Balls = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
`;
