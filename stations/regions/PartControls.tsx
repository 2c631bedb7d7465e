'use client';
import { type Part } from '@/core/region/region';
import { type RegionOwner } from '@/store/edits/regions';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { formatStops } from '@/ui/formatFinding';
import { Hint } from '@/ui/Section';
import { useActions, useBench } from '../benchContext';
import { BrushControls } from './BrushControls';
import { type OnChange, RangeControls } from './RangeControls';
import { REGION_TEXT as TEXT } from './text';
import { CutState, DabControls } from './DabControls';
import { PartedControls } from './PartedControls';
import { StrokeList } from './StrokeList';

export interface PartControlsProps {
  readonly owner: RegionOwner;
  /** place among the parts of its region */
  readonly at: number;
  readonly part: Part;
  /** whether it is taken away from the region */
  readonly isRemoved: boolean;
  readonly onChange: OnChange;
}

const percent = (v: number): string => `${Math.round(100 * v)} %`;
const degrees = (v: number): string => `${Math.round(v)}°`;

/** How far each kind of range reaches, and how its numbers read. */
const RANGES = {
  tone: { min: -10, max: 4, step: 0.1, soft: 4, format: (v: number) => formatStops(v) },
  saturation: { min: 0, max: 1, step: 0.01, soft: 0.5, format: percent },
  distance: { min: 0, max: 1, step: 0.01, soft: 0.5, format: percent },
  sharpness: { min: 0, max: 1, step: 0.01, soft: 0.5, format: percent },
  motion: { min: 0, max: 6, step: 0.05, soft: 2, format: (v: number) => formatStops(v) },
  noise: { min: 0, max: 20, step: 0.1, soft: 5, format: (v: number) => `${v.toFixed(1)}/255` },
} as const;

/** The controls of a part, by its kind. */
export function PartControls({ owner, at, part, isRemoved, onChange }: PartControlsProps) {
  switch (part.kind) {
    case 'strokes':
      return (
        <>
          <StrokeList
            strokes={part.settings.strokes}
            isRemoved={isRemoved}
            onChange={(strokes, name) => onChange({ strokes }, name)}
          />
          <BrushControls owner={owner} />
        </>
      );
    case 'thing':
      return (
        <>
          <DabControls
            owner={owner}
            at={at}
            dabs={part.settings.dabs}
            hints={TEXT.dabbing}
            onChange={(dabs, name) => onChange({ dabs }, name)}
          />
          <CutState settings={part.settings} />
        </>
      );
    case 'parted':
      return <PartedControls owner={owner} at={at} settings={part.settings} onChange={onChange} />;
    case 'tone':
    case 'saturation':
    case 'distance':
    case 'sharpness':
    case 'noise':
    case 'motion':
      return (
        <RangeControls
          range={part.settings}
          {...RANGES[part.kind]}
          name={TEXT.kinds[part.kind]}
          onChange={onChange}
        />
      );
    case 'colour':
      return <ColourControls settings={part.settings} onChange={onChange} />;
    case 'same': {
      const { settings } = part;
      return (
        <>
          <DrawButton owner={owner} at={at} tool="same" />
          <Measure
            label={TEXT.alike}
            value={settings.within}
            min={1}
            max={16}
            step={0.25}
            format={(v) => `${v.toFixed(1)} ×`}
            onChange={(within) => onChange({ ...settings, within }, TEXT.alike, 'alike')}
          />
          <Toggle
            label={TEXT.anyLight}
            value={settings.anyLight}
            onChange={(anyLight) => onChange({ ...settings, anyLight }, TEXT.anyLight)}
          />
        </>
      );
    }
    case 'gradient': {
      const { settings } = part;
      return (
        <>
          <DrawButton owner={owner} at={at} tool="gradient" />
          <Measure
            label={TEXT.half}
            value={settings.half ?? 0.5}
            min={0.05}
            max={0.95}
            step={0.01}
            neutral={0.5}
            format={percent}
            onChange={(half) => onChange({ ...settings, half }, TEXT.half, 'half')}
          />
        </>
      );
    }
    case 'ellipse': {
      const { settings } = part;
      return (
        <>
          <DrawButton owner={owner} at={at} tool="ellipse" />
          <Measure
            label={TEXT.turn}
            value={settings.turn}
            min={-90}
            max={90}
            step={1}
            neutral={0}
            format={degrees}
            onChange={(turn) => onChange({ ...settings, turn }, TEXT.turn, 'turn')}
          />
          <Measure
            label={TEXT.softEdge}
            value={settings.soft}
            min={0}
            max={1}
            step={0.01}
            format={percent}
            onChange={(soft) => onChange({ ...settings, soft }, TEXT.softEdge, 'soft')}
          />
        </>
      );
    }
    case 'polygon':
      return <DrawButton owner={owner} at={at} tool="polygon" />;
    case 'named':
      return <NamedHint id={part.settings.region} />;
  }
}

function NamedHint({ id }: { readonly id: string }) {
  const name = useBench((s) => s.history.project.regions.find((r) => r.id === id)?.name);
  return <Hint>{name ?? 'This region is gone.'}</Hint>;
}

type Colour = Extract<Part, { kind: 'colour' }>['settings'];

function ColourControls({ settings, onChange }: { readonly settings: Colour; readonly onChange: OnChange }) {
  const line = (
    part: 'hue' | 'width' | 'soft' | 'from',
    label: string,
    max: number,
    step: number,
    format: (v: number) => string,
  ) => (
    <Measure
      label={label}
      value={settings[part]}
      min={0}
      max={max}
      step={step}
      format={format}
      onChange={(v) => onChange({ ...settings, [part]: v }, label, 'colour')}
    />
  );
  return (
    <>
      {line('hue', TEXT.hue, 360, 1, degrees)}
      {line('width', TEXT.width, 180, 1, degrees)}
      {line('soft', TEXT.softHue, 90, 1, degrees)}
      {line('from', TEXT.chroma, 0.3, 0.005, (v) => v.toFixed(3))}
    </>
  );
}

/** Takes the tool in hand that draws a part. */
function DrawButton({
  owner,
  at,
  tool,
}: {
  readonly owner: RegionOwner;
  readonly at: number;
  readonly tool: 'gradient' | 'ellipse' | 'polygon' | 'same';
}) {
  const inHand = useBench((s) => s.tool === tool && s.drawing?.part === at);
  const actions = useActions();
  return (
    <Button
      aria-pressed={inHand}
      onPress={() => (inHand ? actions.take(undefined) : actions.take(tool, { owner, part: at }))}
    >
      {inHand ? TEXT.drawing[tool] : TEXT.draw[tool]}
    </Button>
  );
}
