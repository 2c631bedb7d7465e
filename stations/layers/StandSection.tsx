'use client';
import { type Layer } from '@/core/layers/layer';
import { placeMatrix } from '@/core/layers/place';
import { type LightDirection } from '@/core/ground/light';
import { standingOf } from '@/core/ground/standingOf';
import { stoodAt } from '@/core/ground/standing';
import { invert } from '@/core/raster/matrix3';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { type Project } from '@/core/recipe/project';
import { liftPlate, setStand, turnSun } from '@/store/edits/stand';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions, useBench } from '../benchContext';
import { sizeOfLayer } from './PlaceSection';
import { LAYERS_TEXT as TEXT } from './text';

/** Metres to the foot of a plate that stands; undefined where it stands nowhere. */
function distanceOf(project: Project, layer: Layer): number | undefined {
  const { space } = project;
  const grid = pictureGrid(project);
  const own = sizeOfLayer(project, layer);
  if (!space || !layer.stand || !layer.place || !grid || !own) return undefined;
  const matrix = placeMatrix(layer.place, own, grid);
  return stoodAt(standingOf(space, layer.stand, matrix, own, grid), invert(matrix))?.distance;
}

const percent = (v: number): string => `${Math.round(100 * v)} %`;

/** How a plate stands in the picture's space: how far it takes the picture's light, its shadow or mirror image, and where the sun is. */
export function StandSection({ layer }: { readonly layer: Layer }) {
  const actions = useActions();
  const project = useBench((s) => s.history.project);
  const { stand, id, name } = layer;
  const { space } = project;
  if (!stand || !space) return null;
  const away = distanceOf(project, layer);
  const { sun } = space.light;
  const change = (label: string, to: Parameters<typeof setStand>[1]): void =>
    actions.edit(`${label}: ${name}`, setStand(id, to), `${label} ${id}`);
  const turn = (label: string, to: Partial<LightDirection>): void => actions.edit(label, turnSun(to), label);
  return (
    <Section title={`${TEXT.stands}: ${name}`}>
      <Hint>{away === undefined ? TEXT.nowhere : TEXT.away(away)}</Hint>
      <Measure
        label={TEXT.relight}
        value={stand.relight}
        min={0}
        max={1}
        step={0.01}
        format={percent}
        onChange={(relight) => change(TEXT.relight, { relight })}
      />
      <Measure
        label={stand.water ? TEXT.mirrorImage : TEXT.shadow}
        value={stand.shadow}
        min={0}
        max={1}
        step={0.01}
        format={percent}
        onChange={(shadow) => change(stand.water ? TEXT.mirrorImage : TEXT.shadow, { shadow })}
      />
      {sun && (
        <>
          <Measure
            label={TEXT.sunFrom}
            value={sun.azimuth}
            min={-180}
            max={180}
            step={1}
            format={TEXT.from360}
            onChange={(azimuth) => turn(TEXT.sunFrom, { azimuth })}
          />
          <Measure
            label={TEXT.sunUp}
            value={sun.elevation}
            min={0}
            max={90}
            step={1}
            format={(v) => `${Math.round(v)}°`}
            onChange={(elevation) => turn(TEXT.sunUp, { elevation })}
          />
        </>
      )}
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
