'use client';
import { type Layer } from '@/core/layers/layer';
import { type Place } from '@/core/layers/place';
import { pictureGrid, setGrid } from '@/core/recipe/pictureGrid';
import { type Project } from '@/core/recipe/project';
import { setScope } from '@/core/recipe/setFrames';
import { setPlace } from '@/store/edits/layers';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions, useBench } from '../benchContext';
import { LAYERS_TEXT as TEXT } from './text';

/** Full size of what a layer shows; undefined while it is not known. */
export function sizeOfLayer(
  project: Project,
  layer: Layer,
): { readonly width: number; readonly height: number } | undefined {
  if (layer.kind !== 'picture') return undefined;
  const { source } = layer;
  if (source.kind === 'plate') return project.frames.find((f) => f.id === source.frame);
  const set = project.sets.find((s) =>
    source.kind === 'set' ? s.id === source.set : s.frames.includes(source.frame),
  );
  const scope = set && setScope(project, set.id);
  return scope && setGrid(scope);
}

/** Where a layer lies in the picture: moved with the pointer, by its corners, or by numbers. */
export function PlaceSection({ layer, place }: { readonly layer: Layer; readonly place: Place }) {
  const actions = useActions();
  const { tool, project } = useBench((s) => ({ tool: s.tool, project: s.history.project }));
  const grid = pictureGrid(project);
  const own = sizeOfLayer(project, layer);
  if (!grid || !own) return null;
  const { id, name } = layer;
  const long = Math.max(grid.width, grid.height);
  const set = (label: string, change: Partial<Place>): void =>
    actions.edit(`${label} of ${name}`, setPlace(id, change), `${label} ${id}`);
  const enlarged = (place.size * long) / Math.max(own.width, own.height);
  const take = (wanted: 'place' | 'corners'): void => actions.take(tool === wanted ? undefined : wanted);
  return (
    <Section title={`${TEXT.place}: ${name}`}>
      <Row>
        <Button aria-pressed={tool === 'place'} onPress={() => take('place')}>
          {TEXT.move}
        </Button>
        <Button aria-pressed={tool === 'corners'} onPress={() => take('corners')}>
          {TEXT.pull}
        </Button>
        {place.corners && (
          <Button
            onPress={() => actions.edit(`${TEXT.straight}: ${name}`, setPlace(id, { corners: undefined }))}
          >
            {TEXT.straight}
          </Button>
        )}
        <Toggle
          label={TEXT.mirrored}
          value={place.mirrored}
          onChange={(mirrored) => set(TEXT.mirrored, { mirrored })}
        />
      </Row>
      <Measure
        label={TEXT.across}
        value={place.x}
        min={-0.2}
        max={grid.width / long + 0.2}
        step={0.001}
        format={(v) => `${Math.round(v * long)} px`}
        onChange={(x) => set(TEXT.across, { x })}
      />
      <Measure
        label={TEXT.downwards}
        value={place.y}
        min={-0.2}
        max={grid.height / long + 0.2}
        step={0.001}
        format={(v) => `${Math.round(v * long)} px`}
        onChange={(y) => set(TEXT.downwards, { y })}
      />
      <Measure
        label={TEXT.sized}
        value={Math.log2(place.size)}
        min={-7}
        max={1}
        step={0.02}
        format={(v) => `${Math.round(2 ** v * long)} px`}
        onChange={(v) => set(TEXT.sized, { size: 2 ** v })}
      />
      <Measure
        label={TEXT.turned}
        value={place.turn}
        min={-180}
        max={180}
        step={0.1}
        neutral={0}
        format={(v) => `${v.toFixed(1).replace('-', '−')}°`}
        onChange={(turn) => set(TEXT.turned, { turn })}
      />
      {enlarged > 1.05 && <Hint>{TEXT.enlarged(Math.round(100 * enlarged))}</Hint>}
    </Section>
  );
}
