'use client';
import { type SoftRange } from '@/core/region/smoothRange';
import { Measure } from '@/ui/controls/Measure';
import { REGION_TEXT as TEXT } from './text';

/** Changes the settings of a part. @param name of the step; `gesture` joins what one movement does */
export type OnChange = (settings: object, name: string, gesture?: string) => void;

interface RangeProps {
  readonly range: SoftRange;
  readonly min: number;
  readonly max: number;
  readonly step: number;
  /** widest soft ends */
  readonly soft: number;
  readonly format: (v: number) => string;
  readonly name: string;
  readonly onChange: OnChange;
}

/** Both ends of a range, and how softly they fade. */
export function RangeControls({ range, min, max, step, soft, format, name, onChange }: RangeProps) {
  const inside = (v: number): number => Math.min(max, Math.max(min, v));
  return (
    <>
      <Measure
        label={TEXT.from}
        value={inside(range.from)}
        min={min}
        max={max}
        step={step}
        format={format}
        onChange={(from) => onChange({ ...range, from, to: Math.max(from, range.to) }, name, 'range')}
      />
      <Measure
        label={TEXT.to}
        value={inside(range.to)}
        min={min}
        max={max}
        step={step}
        format={format}
        onChange={(to) => onChange({ ...range, to, from: Math.min(to, range.from) }, name, 'range')}
      />
      <Measure
        label={TEXT.soft}
        value={range.soft}
        min={0}
        max={soft}
        step={step}
        format={format}
        onChange={(next) => onChange({ ...range, soft: next }, TEXT.soft, 'range')}
      />
    </>
  );
}
