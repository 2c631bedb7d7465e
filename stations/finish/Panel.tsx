'use client';
import { memo, useState } from 'react';
import { type CropRatio } from '@/core/finish/finish';
import { setFinish } from '@/store/edits';
import { type Sharpen } from '@/core/finish/sharpen';
import { tiltOf } from '@/core/finish/straighten';
import { deliver, type DeliveryKind, exportProject, type OutFile } from '@/store/deliver';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Measure } from '@/ui/controls/Measure';
import { PickOne } from '@/ui/controls/PickOne';
import { Toggle } from '@/ui/controls/Toggle';
import { ToneChart } from '@/ui/chart/ToneChart';
import { formatStops } from '@/ui/formatFinding';
import { Hint, Row, Section } from '@/ui/Section';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { download } from '../download';
import { StationFindings } from '../stationFindings';
import { FINISH_TEXT as TEXT } from './text';

const RATIOS = Object.keys(TEXT.ratios) as CropRatio[];

/** Findings of the finished picture, crop, light, and delivery. Each section follows its own part of the recipe: a slider moves one of them. */
export function FinishPanel() {
  return (
    <>
      <StationFindings station="finish" title={TEXT.name} none={TEXT.none} />
      <FixedCrop />
      <FixedLight />
      <FixedStraighten />
      <FixedDetail />
      <FixedDeliver />
    </>
  );
}

function CropSection() {
  const { ratio, upright, hasOwn } = useBench(({ history: { project } }) => ({
    ratio: project.finish.ratio,
    upright: project.finish.upright,
    hasOwn: project.finish.crop !== undefined,
  }));
  const actions = useActions();
  return (
    <Section title={TEXT.crop}>
      <Choice
        label={TEXT.crop}
        value={ratio}
        options={RATIOS.map((value) => ({ value, label: TEXT.ratios[value] }))}
        onChange={(next) =>
          actions.edit(`Crop ${TEXT.ratios[next].toLowerCase()}`, setFinish({ ratio: next, crop: undefined }))
        }
      />
      {ratio !== 'free' && ratio !== '1:1' && (
        <Toggle
          label={TEXT.upright}
          value={upright}
          onChange={(next) =>
            actions.edit(next ? 'Crop upright' : 'Crop lying', setFinish({ upright: next, crop: undefined }))
          }
        />
      )}
      <Hint>{hasOwn ? TEXT.own : TEXT.isProposed}</Hint>
      {hasOwn && (
        <Button onPress={() => actions.edit('Proposed crop', setFinish({ crop: undefined }))}>
          {TEXT.proposed}
        </Button>
      )}
    </Section>
  );
}

function LightSection() {
  const { exposure, tones } = useBench((s) => ({
    exposure: s.history.project.finish.exposure,
    tones: s.finished?.tones,
  }));
  const actions = useActions();
  return (
    <Section title={TEXT.light}>
      <Measure
        label={TEXT.exposure}
        value={exposure}
        min={-3}
        max={3}
        step={0.05}
        neutral={0}
        format={(v) => formatStops(v, 2)}
        onChange={(v) => actions.edit('Exposure', setFinish({ exposure: v }), 'exposure')}
      />
      {tones && <ToneChart label={TEXT.tones} shares={tones.shares} first={tones.first} />}
      <Hint>{TEXT.tones}</Hint>
    </Section>
  );
}

const percent = (v: number): string => `${Math.round(100 * v)} %`;

/** Level and uprights from drawn lines. */
function StraightenSection() {
  const { straighten, tool } = useBench((s) => ({
    straighten: s.history.project.finish.straighten,
    tool: s.tool,
  }));
  const actions = useActions();
  const take = (wanted: 'level' | 'upright'): void => actions.take(tool === wanted ? undefined : wanted);
  const done = straighten.level ?? straighten.uprights;
  return (
    <Section title={TEXT.straighten}>
      <Row>
        <Button aria-pressed={tool === 'level'} onPress={() => take('level')}>
          {tool === 'level' ? TEXT.drawingLevel : TEXT.level}
        </Button>
        <Button aria-pressed={tool === 'upright'} onPress={() => take('upright')}>
          {tool === 'upright' ? TEXT.drawingUprights : TEXT.uprights}
        </Button>
        {done && (
          <Button
            onPress={() => actions.edit('As it was held', setFinish({ straighten: {}, crop: undefined }))}
          >
            {TEXT.asHeld}
          </Button>
        )}
      </Row>
      <Hint>
        {straighten.level && `${TEXT.turned} ${formatDegrees((180 / Math.PI) * tiltOf(straighten.level))}. `}
        {straighten.uprights && `${TEXT.tilted} `}
        {TEXT.straightenHint}
      </Hint>
    </Section>
  );
}

const formatDegrees = (v: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)}°`;

/** Noise reduction and sharpening, in this order: sharpening comes last. */
function DetailSection() {
  const { reduced, sharpen, noise } = useBench((s) => ({
    reduced: s.history.project.finish.noise,
    sharpen: s.history.project.finish.sharpen,
    noise: s.merged?.scene.noise,
  }));
  const actions = useActions();
  const set = (change: Partial<Sharpen>, name: string): void =>
    actions.edit(name, setFinish({ sharpen: { ...sharpen, ...change } }), name);
  return (
    <Section title={TEXT.detail}>
      <Measure
        label={TEXT.noise}
        value={reduced}
        min={0}
        max={1}
        step={0.05}
        neutral={0.5}
        format={percent}
        onChange={(v) => actions.edit('Noise reduction', setFinish({ noise: v }), 'noise')}
      />
      <Hint>
        {noise !== undefined && `${TEXT.measuredNoise} ${(255 * noise).toFixed(1)}/255. `}
        {TEXT.noiseHint}
      </Hint>
      <Measure
        label={TEXT.sharpen}
        value={sharpen.amount}
        min={0}
        max={2}
        step={0.05}
        format={percent}
        onChange={(amount) => set({ amount }, 'Sharpening')}
      />
      <Measure
        label={TEXT.radius}
        value={sharpen.radius}
        min={0.5}
        max={4}
        step={0.1}
        format={(v) => `${v.toFixed(1)} px`}
        onChange={(radius) => set({ radius }, 'Sharpening radius')}
      />
      <Measure
        label={TEXT.edge}
        value={sharpen.edge}
        min={0}
        max={1}
        step={0.05}
        format={(v) => `${v.toFixed(2)} EV`}
        onChange={(edge) => set({ edge }, 'Sharpening edges')}
      />
      <Hint>{TEXT.edgeHint}</Hint>
    </Section>
  );
}

const KINDS = Object.keys(TEXT.kinds) as DeliveryKind[];

function DeliverSection() {
  const { bench } = useBenchParts();
  const { busy, ready, radiance } = useBench((s) => ({
    busy: s.work !== undefined,
    ready: s.merged !== undefined,
    radiance: s.merged?.radiance !== undefined,
  }));
  const [kind, setKind] = useState<DeliveryKind>('png');
  const [quality, setQuality] = useState(92);
  const [disclosed, setDisclosed] = useState(false);
  const hand = async (made: Promise<OutFile | undefined>): Promise<void> => {
    const file = await made;
    if (file) download(file);
  };
  const kinds = KINDS.filter((k) => k !== 'radiance' || radiance);
  const carries = ['png', 'tiff', 'float', 'jpeg'].includes(kind);
  return (
    <Section title={TEXT.deliver}>
      <PickOne
        label={TEXT.as}
        value={kinds.includes(kind) ? kind : 'png'}
        options={kinds.map((value) => ({ value, label: TEXT.kinds[value] }))}
        onChange={setKind}
      />
      {kind === 'jpeg' && (
        <Measure
          label={TEXT.quality}
          value={quality}
          min={40}
          max={100}
          step={1}
          format={String}
          onChange={setQuality}
        />
      )}
      {carries && <Toggle label={TEXT.disclose} value={disclosed} onChange={setDisclosed} />}
      <Button
        data-main
        isDisabled={busy || !ready}
        onPress={() => void hand(deliver(bench, { kind, quality, disclosed }))}
      >
        {TEXT.go}
      </Button>
      <Button isDisabled={busy} onPress={() => void hand(exportProject(bench))}>
        {TEXT.project}
      </Button>
      <Hint>{TEXT.projectHint}</Hint>
    </Section>
  );
}

const FixedCrop = memo(CropSection);
const FixedLight = memo(LightSection);
const FixedStraighten = memo(StraightenSection);
const FixedDetail = memo(DetailSection);
const FixedDeliver = memo(DeliverSection);
