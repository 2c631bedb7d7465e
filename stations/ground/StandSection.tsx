'use client';
import { footAt } from '@/core/ground/footMoved';
import { liftPlate, moveFoot, setStand } from '@/store/edits/stand';
import { type PlateOnGround } from '@/store/standingPlates';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Metres } from '@/ui/controls/Metres';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions } from '../benchContext';
import { GROUND_TEXT as TEXT } from './text';

/** How a plate stands in the picture's space: how far it takes the picture's light, and its shadow or mirror image. */
export function StandSection({ plate }: { readonly plate: PlateOnGround }) {
  const actions = useActions();
  const { stand, id, name } = plate.layer;
  if (!stand) return null;
  const change = (label: string, to: Parameters<typeof setStand>[1]): void =>
    actions.edit(`${label}: ${name}`, setStand(id, to), `${label} ${id}`);
  const resize = (metres: number): void => {
    const { foot, tall, grid, layer } = plate;
    if (!foot || !tall || !layer.place) return;
    const long = Math.max(grid.width, grid.height);
    actions.edit(TEXT.resized(name), moveFoot(id, footAt(layer.place, foot, foot, metres / tall, long)));
  };
  return (
    <Section title={TEXT.standing(name)}>
      <Hint>{plate.stood ? TEXT.away(plate.stood.distance) : TEXT.lies}</Hint>
      {plate.tall !== undefined && <Metres label={TEXT.height} value={plate.tall} onChange={resize} />}
      <Measure
        label={TEXT.relight}
        value={stand.relight}
        min={0}
        max={1}
        step={0.01}
        format={TEXT.percent}
        onChange={(relight) => change(TEXT.relight, { relight })}
      />
      <Measure
        label={stand.water ? TEXT.mirrorImage : TEXT.shadow}
        value={stand.shadow}
        min={0}
        max={1}
        step={0.01}
        format={TEXT.percent}
        onChange={(shadow) => change(stand.water ? TEXT.mirrorImage : TEXT.shadow, { shadow })}
      />
      <Row>
        <Toggle
          label={TEXT.inWater}
          value={stand.water}
          onChange={(water) => change(TEXT.inWater, { water })}
        />
        <Button onPress={() => actions.edit(`${TEXT.lift}: ${name}`, liftPlate(id))}>{TEXT.lift}</Button>
      </Row>
    </Section>
  );
}
