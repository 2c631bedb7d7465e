'use client';
import { type ToneShares } from '@/core/finish/toneShares';
import { type ZoneMove } from '@/core/edits/zones/zoneCurve';
import { Button } from '@/ui/controls/Button';
import { Hint, Row } from '@/ui/Section';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';
import { type Measuring, useFound } from '../useFound';
import { allZones, ZoneLadder } from './ZoneLadder';

const TEXT = EDITS_TEXT.zones;

const tonesOf: Measuring<ToneShares> = (tasks, found) => tasks.tones(found);

export function ZonesControls({ at, settings, onChange }: EditControls<'zones'>) {
  const { zones } = settings;
  const tones = useFound(at, 'zones', tonesOf);
  const addZone = (): void => {
    const all = allZones(zones);
    const gaps = all.slice(1).map((z, i) => ({ at: (z.at + all[i].at) / 2, wide: z.at - all[i].at }));
    const widest = gaps.reduce((a, b) => (b.wide > a.wide + 1e-9 ? b : a));
    onChange({ zones: [...all, { at: widest.at, by: 0 }].sort((a, b) => a.at - b.at) }, 'Added a zone');
  };
  return (
    <>
      <ZoneLadder
        zones={zones}
        tones={tones}
        onChange={(next: readonly ZoneMove[], name, gesture) => onChange({ zones: next }, name, gesture)}
      />
      <Row>
        <Button onPress={addZone}>{TEXT.add}</Button>
        <Button isDisabled={zones.length === 0} onPress={() => onChange({ zones: [] }, 'Zones back')}>
          {TEXT.reset}
        </Button>
      </Row>
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
