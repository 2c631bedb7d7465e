'use client';
import { type PlatePlace } from '@/core/layers/platePlace';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { type Frame } from '@/core/recipe/project';
import { setPlate } from '@/store/edits';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions, useBench } from '../benchContext';
import { LAYERS_TEXT as TEXT } from './text';

/** Where a cut-out lies in the picture: moved with the pointer or by numbers. */
export function PlaceSection({ frame, place }: { readonly frame: Frame; readonly place: PlatePlace }) {
  const actions = useActions();
  const { inHand, project } = useBench((s) => ({ inHand: s.tool === 'place', project: s.history.project }));
  const grid = pictureGrid(project);
  if (!grid) return null;
  const long = Math.max(grid.width, grid.height);
  const set = (label: string, change: Partial<PlatePlace>): void =>
    actions.edit(`${label} of ${frame.file}`, setPlate(frame.id, change), `${label} ${frame.id}`);
  const own = Math.max(frame.width, frame.height);
  const enlarged = (place.size * long) / own;
  return (
    <Section title={`${TEXT.place}: ${frame.file}`}>
      <Row>
        <Button aria-pressed={inHand} onPress={() => actions.take(inHand ? undefined : 'place')}>
          {TEXT.move}
        </Button>
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
        label={TEXT.size}
        value={Math.log2(place.size)}
        min={-7}
        max={1}
        step={0.02}
        format={(v) => `${Math.round((100 * 2 ** v * long) / own)} %`}
        onChange={(v) => set(TEXT.size, { size: 2 ** v })}
      />
      <Measure
        label={TEXT.turned}
        value={place.turn}
        min={-45}
        max={45}
        step={0.1}
        neutral={0}
        format={(v) => `${v.toFixed(1)}°`}
        onChange={(turn) => set(TEXT.turned, { turn })}
      />
      {enlarged > ENLARGED && <Hint>{TEXT.enlarged(Math.round(100 * enlarged))}</Hint>}
    </Section>
  );
}

/** a cut-out drawn larger than this looks soft beside what it lies on */
const ENLARGED = 1.15;
