'use client';
import { Copy, FolderMinus, FolderPlus, Trash2 } from 'lucide-react';
import { useMemo } from 'react';
import { MenuTrigger } from 'react-aria-components';
import { styled } from 'styled-components';
import { BLEND_MODES } from '@/core/layers/blendMode';
import { allLayers, findLayer, type Layer } from '@/core/layers/layer';
import { fitOf } from '@/core/recipe/setFrames';
import {
  addAlternative,
  addBeneath,
  addFill,
  addFrameLayer,
  chooseAlternative,
  copyLayer,
  groupLayer,
  moveLayer,
  removeAlternative,
  removeLayer,
  setFill,
  setLayer,
  ungroupLayer,
} from '@/store/edits/layers';
import { laySet } from '@/store/edits/sets';
import { START } from '@/store/session';
import { ActionList } from '@/ui/controls/ActionList';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Measure } from '@/ui/controls/Measure';
import { PickOne } from '@/ui/controls/PickOne';
import { TextLine } from '@/ui/controls/TextLine';
import { Toggle } from '@/ui/controls/Toggle';
import { formatStops } from '@/ui/formatFinding';
import { Row, Section } from '@/ui/Section';
import { COLOUR } from '@/ui/tokens';
import { useActions, useBench, useFrames, useProject, useScope } from '../benchContext';
import { EditList } from '../edits/EditList';
import { BrushControls } from '../regions/BrushControls';
import { RegionEditor } from '../regions/RegionEditor';
import { StationFindings } from '../stationFindings';
import { PlaceSection } from './PlaceSection';
import { LAYERS_TEXT as TEXT } from './text';

const percent = (v: number): string => `${Math.round(100 * v)} %`;

const LAYER_KINDS = [
  'neutral',
  'exposure',
  'match',
  'zones',
  'saturation',
  'hues',
  'tint',
  'noise',
  'soften',
  'sharpen',
  'grain',
] as const;
const MORE_KINDS = ['overTime', 'detail', 'deblur', 'veil', 'glow', 'vignette'] as const;

/** The chosen layer: where it lies, where it is shown, what is changed in it. */
export function LayersPanel() {
  const project = useProject();
  const { chosen, part } = useBench((s) => ({ chosen: s.session.layer, part: s.session.layerPart }));
  const tab = PARTS.includes(part) ? part : PARTS[0];
  const actions = useActions();
  const layer = findLayer(project.layers, chosen);
  // the same as long as it is the same layer: what is measured of it follows it
  const at = useMemo(() => ({ kind: 'layer' as const, id: chosen }), [chosen]);
  const plates = allLayers(project.layers).filter(
    (l) => l.shown && l.kind === 'picture' && l.source.kind === 'plate',
  ).length;
  return (
    <>
      <StationFindings
        station="layers"
        title={TEXT.name}
        none={plates > 0 ? TEXT.placed(plates) : TEXT.none}
      />
      <Parts>
        <AddLayer />
      </Parts>
      {layer && (
        <>
          <LayerSection layer={layer} />
          <Parts>
            <Choice
              label={`${TEXT.layer}: ${layer.name}`}
              value={tab}
              options={PARTS.map((value) => ({ value, label: TEXT.parts[value] }))}
              onChange={(layerPart) => actions.go({ layerPart })}
            />
          </Parts>
          {tab === 'where' && (
            <Section title={`${TEXT.where}: ${layer.name}`}>
              <IdleNote layer={layer} />
              <RegionEditor owner={{ kind: 'layer', layer: layer.id }} name={layer.name} />
              <BrushControls owner={{ kind: 'layer', layer: layer.id }} />
            </Section>
          )}
          {tab === 'place' &&
            (layer.place ? <PlaceSection layer={layer} place={layer.place} /> : <NoPlace />)}
          {tab === 'edits' && <EditList at={at} kinds={LAYER_KINDS} more={MORE_KINDS} first="exposure" />}
          {tab === 'layer' && (
            <>
              <OwnSection layer={layer} />
              <VersionSection layer={layer} />
            </>
          )}
        </>
      )}
    </>
  );
}

const PARTS = ['where', 'place', 'edits', 'layer'] as const;

const Parts = styled.div`
  display: grid;
  padding: 9px 15px;
  border-bottom: 1px solid ${COLOUR.line};
`;

/** Says that what is painted changes nothing, and offers the layer that was meant. */
function IdleNote({ layer }: { readonly layer: Layer }) {
  const project = useProject();
  const actions = useActions();
  const idle = useBench((s) => s.idle);
  const meant = idle?.meant === undefined ? undefined : findLayer(project.layers, idle.meant);
  return (
    <Status role="status">
      {idle?.layer === layer.id && (
        <Idle>
          {TEXT.idle(layer.name)}
          {meant && (
            <Button onPress={() => actions.go({ layer: meant.id })}>{TEXT.paintIn(meant.name)}</Button>
          )}
        </Idle>
      )}
    </Status>
  );
}

/** takes no room while there is nothing to say */
const Status = styled.div`
  &:empty {
    display: none;
  }
`;

const Idle = styled.div`
  display: grid;
  gap: 8px;
  padding: 9px 11px;
  margin-bottom: 10px;
  background: ${COLOUR.raised};
  border: 1px solid ${COLOUR.line};
  border-left: 3px solid ${COLOUR.watch};
`;

function NoPlace() {
  return <Section title={TEXT.place}>{TEXT.noPlace}</Section>;
}

/** What can be laid over the picture: frames of the set, sets, a colour, a gradient, an adjustment. */
function AddLayer() {
  const frames = useFrames();
  const project = useProject();
  const scope = useScope();
  const actions = useActions();
  const zero = frames.find((f) => f.isReference)?.frame.stops ?? 0;
  const fitted = frames.filter(({ frame }) => scope && fitOf(scope, frame)?.fitted);
  const lay = (label: string, change: (id: string) => Parameters<typeof actions.edit>[1]): void => {
    const layer = crypto.randomUUID();
    actions.edit(label, change(layer));
    actions.go({ layer, brush: START.brush });
  };
  const add = (key: string): void => {
    const entry = fitted.find((f) => f.frame.id === key);
    const set = project.sets.find((s) => `set ${s.id}` === key);
    if (entry) lay(`Added ${entry.frame.file} as a layer`, (id) => addFrameLayer(id, entry.frame));
    else if (set) lay(`Added ${set.name} as a layer`, (id) => laySet(set.id, id));
    else if (key === 'colour')
      lay(TEXT.kinds.colour, (id) =>
        addFill(id, TEXT.kinds.colour, { kind: 'colour', colour: [0.5, 0.5, 0.5] }),
      );
    else if (key === 'gradient')
      lay(TEXT.kinds.gradient, (id) =>
        addFill(id, TEXT.kinds.gradient, {
          kind: 'gradient',
          ...{ from: [0, 0, 0], to: [1, 1, 1], x0: 0.5, y0: 0, x1: 0.5, y1: 0.6 },
        }),
      );
    else if (key === 'beneath') lay(TEXT.kinds.beneath, (id) => addBeneath(id, TEXT.kinds.beneath));
  };
  return (
    <MenuTrigger>
      <Button isDisabled={frames.length === 0}>{TEXT.choose}</Button>
      <ActionList
        label={TEXT.add}
        items={[
          ...fitted.map(({ frame, name }) => ({
            id: frame.id,
            name: `${name}, ${frame.file}`,
            note: formatStops(frame.stops - zero),
          })),
          ...project.sets.map((s) => ({ id: `set ${s.id}`, name: s.name, note: TEXT.merged })),
          { id: 'beneath', name: TEXT.kinds.beneath, note: '' },
          { id: 'colour', name: TEXT.kinds.colour, note: '' },
          { id: 'gradient', name: TEXT.kinds.gradient, note: '' },
        ]}
        onAction={add}
      />
    </MenuTrigger>
  );
}

/** Whether a layer is seen, and how much of it. */
function LayerSection({ layer }: { readonly layer: Layer }) {
  const actions = useActions();
  const solo = useBench((s) => s.session.solo);
  const { id, name } = layer;
  return (
    <Section title={`${TEXT.layer}: ${name}`}>
      <Row>
        <Toggle
          label={TEXT.visible}
          value={layer.shown}
          onChange={(shown) =>
            actions.edit(`${shown ? 'Showed' : 'Hid'} layer ${name}`, setLayer(id, { shown }))
          }
        />
        <Toggle label={TEXT.solo} value={solo === id} onChange={(on) => actions.go({ solo: on ? id : '' })} />
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
    </Section>
  );
}

/** What a layer is called, how it is blended, and what can be done with it. */
function OwnSection({ layer }: { readonly layer: Layer }) {
  const actions = useActions();
  const { id, name } = layer;
  return (
    <Section title={`${TEXT.itself}: ${name}`}>
      <TextLine
        label={TEXT.called}
        value={name}
        onChange={(next) =>
          actions.edit(`Named a layer “${next}”`, setLayer(id, { name: next }), `name ${id}`)
        }
      />
      <PickOne
        label={TEXT.blend}
        value={layer.blend}
        options={BLEND_MODES.map((value) => ({ value, label: TEXT.blends[value] }))}
        onChange={(blend) =>
          actions.edit(`${name}: ${TEXT.blends[blend].toLowerCase()}`, setLayer(id, { blend }))
        }
      />
      <Toggle
        label={TEXT.linear}
        value={layer.linear}
        onChange={(linear) =>
          actions.edit(`${name}: ${linear ? TEXT.linear : 'encoded'}`, setLayer(id, { linear }))
        }
      />
      {layer.kind === 'fill' && <FillControls layer={layer} />}
      <LayerActions layer={layer} />
    </Section>
  );
}

/** Colours of a fill, each channel by itself. */
function FillControls({ layer }: { readonly layer: Extract<Layer, { kind: 'fill' }> }) {
  const actions = useActions();
  const { fill, id, name } = layer;
  const channels = (
    label: string,
    colour: readonly [number, number, number],
    put: (c: [number, number, number]) => typeof fill,
  ) =>
    colour.map((v, c) => (
      <Measure
        key={`${label} ${c}`}
        label={`${label} ${TEXT.channels[c]}`}
        value={v}
        min={0}
        max={1}
        step={1 / 255}
        format={(n) => String(Math.round(255 * n))}
        onChange={(next) => {
          const mixed: [number, number, number] = [colour[0], colour[1], colour[2]];
          mixed[c] = next;
          actions.edit(`Colour of ${name}`, setFill(id, put(mixed)), `fill ${id}`);
        }}
      />
    ));
  if (fill.kind === 'colour')
    return <>{channels(TEXT.colour, fill.colour, (colour) => ({ ...fill, colour }))}</>;
  return (
    <>
      {channels(TEXT.from, fill.from, (from) => ({ ...fill, from }))}
      {channels(TEXT.to, fill.to, (to) => ({ ...fill, to }))}
    </>
  );
}

function LayerActions({ layer }: { readonly layer: Layer }) {
  const actions = useActions();
  const base = useBench(({ history: { project } }) => project.base);
  const { id, name } = layer;
  const isBase = layer.kind === 'picture' && layer.source.kind === 'set' && layer.source.set === base;
  return (
    <>
      <Row>
        <Button data-plain onPress={() => actions.edit(`Brought ${name} nearer`, moveLayer(id, 1))}>
          {TEXT.nearer}
        </Button>
        <Button data-plain onPress={() => actions.edit(`Sent ${name} farther`, moveLayer(id, -1))}>
          {TEXT.farther}
        </Button>
        <Button
          data-plain
          onPress={() =>
            actions.edit(
              `Copied ${name}`,
              copyLayer(id, () => crypto.randomUUID()),
            )
          }
        >
          <Copy aria-hidden /> {TEXT.copy}
        </Button>
      </Row>
      <Row>
        {layer.kind === 'group' ? (
          <Button data-plain onPress={() => actions.edit(`Undid the group ${name}`, ungroupLayer(id))}>
            <FolderMinus aria-hidden /> {TEXT.ungroup}
          </Button>
        ) : (
          <Button
            data-plain
            onPress={() => {
              const group = crypto.randomUUID();
              actions.edit(`Made a group of ${name}`, groupLayer(id, group, TEXT.group));
            }}
          >
            <FolderPlus aria-hidden /> {TEXT.makeGroup}
          </Button>
        )}
        <Button
          data-plain
          isDisabled={isBase}
          onPress={() => {
            actions.edit(`Removed layer ${name}`, removeLayer(id));
            actions.go({ layer: '', solo: '' });
          }}
        >
          <Trash2 aria-hidden /> {TEXT.remove}
        </Button>
      </Row>
    </>
  );
}

/** Versions of a layer that are kept side by side, one of them in force. */
function VersionSection({ layer }: { readonly layer: Layer }) {
  const actions = useActions();
  const { id, name, alternatives, version } = layer;
  const count = alternatives.length + 1;
  const keep = (): void =>
    actions.edit(
      `Kept a version of ${name}`,
      addAlternative(id, crypto.randomUUID(), TEXT.version(1), TEXT.version(count + 1)),
    );
  return (
    <Section title={`${TEXT.versions}: ${name}`}>
      <p>{TEXT.inForce(version ?? TEXT.version(1))}</p>
      {alternatives.map((a) => (
        <Row key={a.id}>
          <Button onPress={() => actions.edit(`${name}: ${a.name}`, chooseAlternative(id, a.id))}>
            {TEXT.takeVersion(a.name)}
          </Button>
          <Button
            data-plain
            aria-label={TEXT.dropVersion(a.name)}
            onPress={() => actions.edit(`Dropped ${a.name} of ${name}`, removeAlternative(id, a.id))}
          >
            <Trash2 aria-hidden />
          </Button>
        </Row>
      ))}
      <Button onPress={keep}>{TEXT.keepVersion}</Button>
    </Section>
  );
}
