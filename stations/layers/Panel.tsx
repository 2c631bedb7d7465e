'use client';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { MenuTrigger } from 'react-aria-components';
import { BLEND_MODES } from '@/core/layers/blendMode';
import { type Layer } from '@/core/layers/layer';
import { type ToneRange } from '@/core/mask/mask';
import { fitOf } from '@/core/recipe/project';
import { addFrameLayer, fillMask, moveLayer, removeLayer, setLayer, setMask } from '@/store/edits';
import { type Brush } from '@/store/session';
import { ActionList } from '@/ui/controls/ActionList';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { PickOne } from '@/ui/controls/PickOne';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { formatStops } from '@/ui/formatFinding';
import { Row, Section } from '@/ui/Section';
import { useActions, useBench, useFrames } from '../benchContext';
import { StationFindings } from '../stationFindings';
import { PlaceSection } from './PlaceSection';
import { plateOf } from './plateOf';
import { LAYERS_TEXT as TEXT } from './text';

const percent = (v: number): string => `${Math.round(100 * v)} %`;

/** The brush, then the chosen layer. */
export function LayersPanel() {
  const { layers, frames, chosen, brush } = useBench((s) => ({
    layers: s.history.project.layers,
    frames: s.history.project.frames,
    chosen: s.session.layer,
    brush: s.session.brush,
  }));
  const layer = layers.find((l) => l.id === chosen);
  const plate = layer && plateOf({ frames }, layer);
  const cutOuts = layers.filter((l) => l.visible && plateOf({ frames }, l)?.plate).length;
  return (
    <>
      <StationFindings
        station="layers"
        title={TEXT.name}
        none={cutOuts > 0 ? TEXT.placed(cutOuts) : TEXT.none}
      />
      <Section title={TEXT.add}>
        <AddLayer />
      </Section>
      {plate?.plate && <PlaceSection frame={plate} place={plate.plate} />}
      <BrushSection brush={brush} />
      {layer && <MaskSection layer={layer} />}
      {layer && <LayerSection layer={layer} at={layers.indexOf(layer)} count={layers.length} />}
    </>
  );
}

function AddLayer() {
  const frames = useFrames();
  const project = useBench((s) => s.history.project);
  const actions = useActions();
  const zero = frames.find((f) => f.isReference)?.frame.stops ?? 0;
  const fitted = frames.filter(({ frame }) => fitOf(project, frame)?.fitted);
  const add = (id: string): void => {
    const entry = fitted.find((f) => f.frame.id === id);
    if (!entry) return;
    const layer = crypto.randomUUID();
    actions.edit(`Added ${entry.frame.file} as a layer`, addFrameLayer(layer, entry.frame));
    actions.go({ layer, brush: { ...START_BRUSH } });
  };
  return (
    <MenuTrigger>
      <Button isDisabled={fitted.length === 0}>Choose a frame</Button>
      <ActionList
        label={TEXT.add}
        items={fitted.map(({ frame, name }) => ({
          id: frame.id,
          name: `${name}, ${frame.file}`,
          note: formatStops(frame.stops - zero),
        }))}
        onAction={add}
      />
    </MenuTrigger>
  );
}

const START_BRUSH: Brush = { action: 'reveal', size: 0.08, softness: 1, flow: 1 };

function BrushSection({ brush }: { brush: Brush }) {
  const actions = useActions();
  const set = (change: Partial<Brush>): void => actions.go({ brush: { ...brush, ...change } });
  return (
    <Section title={TEXT.brush}>
      <Choice
        label={TEXT.brush}
        value={brush.action}
        options={[
          { value: 'reveal', label: TEXT.actions.reveal },
          { value: 'hide', label: TEXT.actions.hide },
        ]}
        onChange={(action) => set({ action })}
      />
      <Measure
        label={TEXT.flow}
        value={brush.flow}
        min={0.05}
        max={1}
        step={0.05}
        format={percent}
        onChange={(flow) => set({ flow })}
      />
      <Measure
        label={TEXT.softness}
        value={brush.softness}
        min={0}
        max={1}
        step={0.05}
        format={percent}
        onChange={(softness) => set({ softness })}
      />
      <Measure
        label={TEXT.size}
        value={Math.log2(brush.size)}
        min={-9}
        max={-0.5}
        step={0.1}
        format={(v) => `${(100 * 2 ** v).toFixed(1)} %`}
        onChange={(v) => set({ size: 2 ** v })}
      />
    </Section>
  );
}

function LayerSection({ layer, at, count }: { layer: Layer; at: number; count: number }) {
  const actions = useActions();
  const { id, name } = layer;
  return (
    <Section title={`${TEXT.layer}: ${name}`}>
      <Row>
        <Toggle
          label={TEXT.visible}
          value={layer.visible}
          onChange={(visible) =>
            actions.edit(`${visible ? 'Showed' : 'Hid'} layer ${name}`, setLayer(id, { visible }))
          }
        />
      </Row>
      <Measure
        label={TEXT.opacity}
        value={layer.opacity}
        min={0}
        max={1}
        step={0.01}
        format={percent}
        onChange={(opacity) => actions.edit(`Opacity of ${name}`, setLayer(id, { opacity }), `opacity ${id}`)}
      />
      <Measure
        label={TEXT.stops}
        value={layer.stops}
        min={-4}
        max={4}
        step={0.1}
        neutral={0}
        format={(v) => formatStops(v)}
        onChange={(stops) => actions.edit(`Brightness of ${name}`, setLayer(id, { stops }), `stops ${id}`)}
      />
      <PickOne
        label={TEXT.blend}
        value={layer.blend}
        options={BLEND_MODES.map((value) => ({ value, label: TEXT.blends[value] }))}
        onChange={(blend) =>
          actions.edit(`${name}: ${TEXT.blends[blend].toLowerCase()}`, setLayer(id, { blend }))
        }
      />
      <Row>
        <Button
          data-plain
          isDisabled={at === count - 1}
          onPress={() => actions.edit(`Raised ${name}`, moveLayer(id, 1))}
        >
          <ArrowUp aria-hidden /> {TEXT.up}
        </Button>
        <Button
          data-plain
          isDisabled={at === 0}
          onPress={() => actions.edit(`Lowered ${name}`, moveLayer(id, -1))}
        >
          <ArrowDown aria-hidden /> {TEXT.down}
        </Button>
        <Button
          data-plain
          isDisabled={layer.source.kind === 'merge'}
          onPress={() => {
            actions.edit(`Removed layer ${name}`, removeLayer(id));
            actions.go({ layer: 'merge' });
          }}
        >
          <Trash2 aria-hidden /> {TEXT.remove}
        </Button>
      </Row>
    </Section>
  );
}

const START_RANGE: ToneRange = { from: -3, to: 1, soft: 1 };

/** Where the chosen layer is shown, beyond what the brush says. */
function MaskSection({ layer: { id, name, mask } }: { layer: Layer }) {
  const actions = useActions();
  const { range } = mask;
  const set = (label: string, change: Parameters<typeof setMask>[1], gesture?: string): void =>
    actions.edit(`${label} of ${name}`, setMask(id, change), gesture && `${gesture} ${id}`);
  const stops = (v: number): string => formatStops(v);
  return (
    <Section title={`${TEXT.where}: ${name}`}>
      <Row>
        <Button onPress={() => actions.edit(`Revealed all of ${name}`, fillMask(id, 'shown'))}>
          {TEXT.fill.shown}
        </Button>
        <Button onPress={() => actions.edit(`Hid all of ${name}`, fillMask(id, 'hidden'))}>
          {TEXT.fill.hidden}
        </Button>
        <Button
          aria-pressed={mask.inverted}
          onPress={() => set('Turned the mask', { inverted: !mask.inverted })}
        >
          {TEXT.invert}
        </Button>
      </Row>
      <Toggle
        label={TEXT.tones}
        value={range !== undefined}
        onChange={(on) => set('Tones of the mask', { range: on ? START_RANGE : undefined })}
      />
      {range && (
        <>
          <Measure
            label={TEXT.from}
            value={range.from}
            min={-10}
            max={3}
            step={0.1}
            format={stops}
            onChange={(from) =>
              set('Tones', { range: { ...range, from, to: Math.max(from, range.to) } }, 'tones')
            }
          />
          <Measure
            label={TEXT.to}
            value={range.to}
            min={-10}
            max={3}
            step={0.1}
            format={stops}
            onChange={(to) =>
              set('Tones', { range: { ...range, to, from: Math.min(to, range.from) } }, 'tones')
            }
          />
          <Measure
            label={TEXT.soft}
            value={range.soft}
            min={0}
            max={4}
            step={0.1}
            format={stops}
            onChange={(soft) => set('Soft ends', { range: { ...range, soft } }, 'tones')}
          />
        </>
      )}
      <Measure
        label={TEXT.follow}
        value={mask.follow}
        min={0}
        max={0.03}
        step={0.001}
        format={share}
        onChange={(follow) => set('Edges followed by the mask', { follow }, 'follow')}
      />
      <Measure
        label={TEXT.feather}
        value={mask.feather}
        min={0}
        max={0.05}
        step={0.001}
        format={share}
        onChange={(feather) => set('Feather', { feather }, 'feather')}
      />
    </Section>
  );
}

const share = (v: number): string => `${(100 * v).toFixed(1)} %`;
