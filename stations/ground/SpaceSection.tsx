'use client';
import { X } from 'lucide-react';
import { styled } from 'styled-components';
import { cameraOn } from '@/core/ground/cameraOn';
import { eyeHeight, tallOf } from '@/core/ground/eyeHeight';
import { type Space, type Yardstick } from '@/core/ground/space';
import { type PictureGrid } from '@/core/recipe/pictureGrid';
import { straightenBy } from '@/core/ground/straightenBy';
import { setGeometry } from '@/store/edits/geometry';
import { setCamera, setYardsticks } from '@/store/edits/stand';
import { layGround, leaveDrawnLines, spaceByLines } from '@/store/spaceFromLines';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Metres } from '@/ui/controls/Metres';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions, useBench, useBenchParts, useProject } from '../benchContext';
import { GROUND_TEXT as TEXT } from './text';

/** Where the ground is: horizon, eye height, focal length, and the yardsticks that heights are told by. */
export function SpaceSection({ grid }: { readonly grid: PictureGrid }) {
  const { bench } = useBenchParts();
  const { actions } = bench;
  const project = useProject();
  const tool = useBench((s) => s.tool);
  const { space } = project;
  if (!space)
    return (
      <Section title={TEXT.space}>
        <Hint>{TEXT.noSpace}</Hint>
        <Row>
          <Button onPress={() => void layGround(bench)}>{TEXT.lay}</Button>
        </Row>
      </Section>
    );
  const { camera } = space;
  const tall = grid.height / Math.max(grid.width, grid.height);
  const set = (label: string, change: Parameters<typeof setCamera>[0]): void =>
    actions.edit(label, setCamera(change), label);
  return (
    <Section title={TEXT.space}>
      <Measure
        label={TEXT.horizon}
        value={camera.horizon / tall}
        min={-0.2}
        max={1.2}
        step={0.002}
        format={TEXT.fromTop}
        onChange={(v) => set(TEXT.horizon, { horizon: v * tall })}
      />
      <Measure
        label={TEXT.roll}
        value={camera.roll ?? 0}
        min={-15}
        max={15}
        step={0.1}
        format={TEXT.leans}
        onChange={(roll) => set(TEXT.roll, { roll })}
      />
      <Measure
        label={TEXT.eye}
        value={Math.log2(camera.height)}
        min={-3}
        max={7}
        step={0.02}
        format={(v) => TEXT.metres(2 ** v)}
        onChange={(v) => set(TEXT.eye, { height: 2 ** v })}
      />
      <Measure
        label={TEXT.focal}
        value={Math.log2(camera.focal)}
        min={-1.5}
        max={4}
        step={0.02}
        format={(v) => TEXT.millimetres(2 ** v)}
        onChange={(v) => set(TEXT.focal, { focal: 2 ** v })}
      />
      <Hint>{TEXT.spaceHint}</Hint>
      <LinesOfSpace space={space} grid={grid} />
      <Row>
        <Button
          aria-pressed={tool === 'ground'}
          onPress={() => actions.take(tool === 'ground' ? undefined : 'ground')}
        >
          {TEXT.pull}
        </Button>
        <Button
          aria-pressed={tool === 'yardstick'}
          onPress={() => actions.take(tool === 'yardstick' ? undefined : 'yardstick')}
        >
          {TEXT.yardstick}
        </Button>
      </Row>
      {tool === 'ground' && <Hint>{TEXT.pullHint}</Hint>}
      {tool === 'yardstick' && <Hint>{TEXT.yardstickHint}</Hint>}
      <Yardsticks space={space} grid={grid} />
    </Section>
  );
}

/** What straight lines tell of the camera, and what can be made of it. */
function LinesOfSpace({ space, grid }: { readonly space: Space; readonly grid: PictureGrid }) {
  const { bench } = useBenchParts();
  const tool = useBench((s) => s.tool);
  const { lines = [], spread = {} } = space;
  const drawn = lines.filter((l) => l.drawn).length;
  const uprights = lines.filter((l) => l.family === 'upright').length;
  const tall = grid.height / Math.max(grid.width, grid.height);
  const told = [
    ...(spread.horizon === undefined ? [] : [TEXT.offHorizon(spread.horizon / tall)]),
    ...(spread.roll === undefined ? [] : [TEXT.offRoll(spread.roll)]),
    ...(spread.focal === undefined ? [] : [TEXT.offFocal(spread.focal)]),
  ];
  return (
    <>
      {lines.length > 0 && <Hint>{TEXT.byLines(uprights, lines.length - uprights, told)}</Hint>}
      <Row>
        <Button onPress={() => void spaceByLines(bench)}>{TEXT.findLines}</Button>
        <Button
          aria-pressed={tool === 'ground line'}
          onPress={() => bench.actions.take(tool === 'ground line' ? undefined : 'ground line')}
        >
          {TEXT.drawLine}
        </Button>
        <Button
          onPress={() =>
            bench.actions.edit(
              TEXT.uprighted,
              setGeometry({ straighten: straightenBy(cameraOn(space.camera, grid), grid), crop: undefined }),
            )
          }
        >
          {TEXT.upright}
        </Button>
        {drawn > 0 && <Button onPress={() => leaveDrawnLines(bench)}>{TEXT.leaveLines(drawn)}</Button>}
      </Row>
      {tool === 'ground line' && <Hint>{TEXT.drawLineHint}</Hint>}
    </>
  );
}

/** What stands upright in the picture, and how tall it is; a height that is known sets the eye's. */
function Yardsticks({ space, grid }: { readonly space: Space; readonly grid: PictureGrid }) {
  const actions = useActions();
  const { yardsticks = [] } = space;
  if (yardsticks.length === 0) return null;
  return (
    <Lines aria-label={TEXT.yardsticks}>
      {yardsticks.map((own, i) => {
        const [camera, foot, top] = inPixels(space, own, grid);
        const metres = tallOf(camera, foot, top);
        const known = (wanted: number): void => {
          const height = eyeHeight(camera, foot, top, wanted);
          if (height) actions.edit(TEXT.scaled, setCamera({ height }));
        };
        return (
          <li key={i}>
            {metres === undefined ? (
              <span>
                {TEXT.tall(i + 1)}: {TEXT.nowhere}
              </span>
            ) : (
              <Metres label={TEXT.tall(i + 1)} value={metres} onChange={known} />
            )}
            <Button
              data-plain
              aria-label={TEXT.leftYardstick(i + 1)}
              onPress={() =>
                actions.edit(TEXT.leftYardstick(i + 1), setYardsticks(yardsticks.filter((_, k) => k !== i)))
              }
            >
              <X size={12} aria-hidden />
            </Button>
          </li>
        );
      })}
    </Lines>
  );
}

/** The camera and the two ends of a yardstick, full-size pixels. */
export function inPixels({ camera }: Space, { foot, top }: Yardstick, grid: PictureGrid) {
  const long = Math.max(grid.width, grid.height);
  const scaled = ([x, y]: readonly [number, number]): readonly [number, number] => [x * long, y * long];
  return [cameraOn(camera, grid), scaled(foot), scaled(top)] as const;
}

const Lines = styled.ul`
  list-style: none;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    align-items: center;
  }
`;
