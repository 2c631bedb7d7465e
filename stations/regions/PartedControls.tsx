'use client';
import { type Channel } from '@/core/region/parted/channels';
import { isParted, type PartedSettings, partingSays } from '@/core/region/parted/parted';
import { type RegionOwner } from '@/store/edits/regions';
import { formatStops } from '@/ui/formatFinding';
import { Hint } from '@/ui/Section';
import { useBenchParts } from '../benchContext';
import { DabControls } from './DabControls';
import { partAgain } from './partAgain';
import { type OnChange, RangeControls } from './RangeControls';
import { REGION_TEXT as TEXT } from './text';

const codes = (v: number): string => String(Math.round(v));
const signed = (v: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(1)}`;

/** How far each channel reaches, and how it reads. */
const REACH: Readonly<
  Record<Channel, { readonly min: number; readonly max: number; readonly format: (v: number) => string }>
> = {
  tone: { min: -10, max: 5, format: (v) => formatStops(v) },
  red: { min: -20, max: 300, format: codes },
  green: { min: -20, max: 300, format: codes },
  blue: { min: -20, max: 300, format: codes },
  greenRed: { min: -40, max: 40, format: signed },
  blueYellow: { min: -40, max: 40, format: signed },
  chroma: { min: 0, max: 45, format: signed },
  mix: { min: -120, max: 120, format: signed },
};

export interface PartedControlsProps {
  readonly owner: RegionOwner;
  readonly at: number;
  readonly settings: PartedSettings;
  readonly onChange: OnChange;
}

/** Dabs, what parts them and how well, and the range that came of it. */
export function PartedControls({ owner, at, settings, onChange }: PartedControlsProps) {
  const { bench, viewer } = useBenchParts();
  const { channel } = settings;
  const { min, max, format } = REACH[channel];
  return (
    <>
      <DabControls
        owner={owner}
        at={at}
        dabs={settings.dabs}
        hints={TEXT.parting}
        onChange={(dabs, label) =>
          void partAgain({ bench, viewer, owner, at, settings: { ...settings, dabs }, label })
        }
      />
      {isParted(settings) && (
        <>
          <Hint role="status">{partingSays(settings)}</Hint>
          <RangeControls
            range={settings}
            {...{ min, max, format }}
            step={(max - min) / 300}
            soft={(max - min) / 4}
            name={TEXT.kinds.parted}
            onChange={onChange}
          />
        </>
      )}
    </>
  );
}
