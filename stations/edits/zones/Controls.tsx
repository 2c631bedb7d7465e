'use client';
import { useEffect, useState } from 'react';
import { type ToneShares } from '@/core/finish/toneShares';
import { type ZoneMove } from '@/core/edits/zones/zoneCurve';
import { drawnGraph } from '@/store/buildScene';
import { Button } from '@/ui/controls/Button';
import { Hint, Row } from '@/ui/Section';
import { useBench, useBenchParts } from '../../benchContext';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';
import { useOpenEdit } from '../useOpenEdit';
import { allZones, ZoneLadder } from './ZoneLadder';

const TEXT = EDITS_TEXT.zones;

export function ZonesControls({ settings, onChange }: EditControls<'zones'>) {
  const { zones } = settings;
  const tones = useTonesBefore(useOpenEdit()?.id);
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

const SMALL = 700;

/** The tones that an edit finds, from a small picture; made anew only when what comes before the edit has changed. */
function useTonesBefore(edit: string | undefined): ToneShares | undefined {
  const { bench, viewer } = useBenchParts();
  const [tones, setTones] = useState<ToneShares>();
  const before = useBench((state) => {
    const compiled = bench.shown(state).built?.compiled;
    return compiled && (compiled.edits.get(edit ?? '')?.before ?? compiled.result);
  });
  useEffect(() => {
    const { built } = bench.shown(bench.store.getState());
    const drawn = built && before !== undefined ? drawnGraph(built, [before]) : undefined;
    if (!built || !drawn || before === undefined) return;
    const { width, height } = built.compiled;
    const controller = new AbortController();
    const timer = setTimeout(() => {
      viewer
        .run((tasks) => tasks.tones(drawn, before, { width, height }, SMALL), {
          signal: controller.signal,
          priority: -2,
        })
        .then(setTones)
        .catch(() => undefined);
    }, 150);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [bench, viewer, before]);
  return tones;
}
