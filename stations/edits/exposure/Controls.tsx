'use client';
import { ToneChart } from '@/ui/chart/ToneChart';
import { Measure } from '@/ui/controls/Measure';
import { formatStops } from '@/ui/formatFinding';
import { useBench } from '../../benchContext';
import { type EditControls } from '../controls';
import { EDITS_TEXT as TEXT } from '../text';

export function ExposureControls({ at, settings, onChange }: EditControls<'exposure'>) {
  const tones = useBench((s) => (at.kind === 'whole' ? s.finished?.tones : undefined));
  return (
    <>
      <Measure
        label={TEXT.names.exposure}
        value={settings.stops}
        min={-4}
        max={4}
        step={0.05}
        neutral={0}
        format={(v) => formatStops(v, 2)}
        onChange={(stops) => onChange({ stops }, TEXT.names.exposure, 'exposure')}
      />
      {tones && <ToneChart label="Tones of the finished picture" shares={tones.shares} first={tones.first} />}
    </>
  );
}
