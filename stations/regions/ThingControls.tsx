'use client';
import { X } from 'lucide-react';
import { type ThingSettings } from '@/core/region/thing/thingSettings';
import { type RegionOwner } from '@/store/edits/regions';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Hint, Row } from '@/ui/Section';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { REGION_TEXT as TEXT } from './text';

export interface ThingControlsProps {
  readonly owner: RegionOwner;
  readonly at: number;
  readonly settings: ThingSettings;
  readonly onChange: (settings: ThingSettings, name: string) => void;
}

/** Points at a thing: what the next dab says, the dabs so far, and how far the cut is. */
export function ThingControls({ owner, at, settings, onChange }: ThingControlsProps) {
  const actions = useActions();
  const { dabs } = settings;
  const inHand = useBench((s) =>
    s.drawing?.part === at && (s.tool === 'this' || s.tool === 'not') ? s.tool : undefined,
  );
  return (
    <>
      <Choice
        label={TEXT.nextDab}
        value={inHand ?? ''}
        options={[
          { value: 'this', label: TEXT.dabs.this },
          { value: 'not', label: TEXT.dabs.not },
        ]}
        onChange={(is) => actions.take(is === 'not' ? 'not' : 'this', { owner, part: at })}
      />
      <Hint>{inHand ? TEXT.dabbing[inHand] : TEXT.pointAgain}</Hint>
      {dabs.length > 0 && (
        <Row>
          {dabs.map((dab, i) => (
            <Button
              key={i}
              data-plain
              aria-label={TEXT.dropDab(i + 1, TEXT.dabs[dab.is])}
              onPress={() =>
                onChange({ dabs: dabs.filter((_, k) => k !== i) }, TEXT.dropDab(i + 1, TEXT.dabs[dab.is]))
              }
            >
              {i + 1} {TEXT.dabs[dab.is]} <X size={12} aria-hidden />
            </Button>
          ))}
        </Row>
      )}
      <CutState settings={settings} />
    </>
  );
}

/** Whether the exact cut is there yet. */
function CutState({ settings }: { readonly settings: ThingSettings }) {
  const { bench } = useBenchParts();
  const state = useBench((s) => {
    const cut = bench.shown(s).built?.compiled.cuts.find((c) => c.settings === settings);
    if (!cut) return '';
    return s.cuts[cut.exact] ? TEXT.cut : s.cuts[cut.rough] ? TEXT.roughCut : TEXT.cutting;
  });
  return state === '' ? null : <Hint role="status">{state}</Hint>;
}
