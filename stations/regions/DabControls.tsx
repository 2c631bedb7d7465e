'use client';
import { X } from 'lucide-react';
import { type Dab } from '@/core/cutout/dab';
import { type ThingSettings } from '@/core/region/thing/thingSettings';
import { type RegionOwner } from '@/store/edits/regions';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Hint, Row } from '@/ui/Section';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { dabInHand } from './dabInHand';
import { REGION_TEXT as TEXT } from './text';

export interface DabControlsProps {
  readonly owner: RegionOwner;
  readonly at: number;
  readonly dabs: readonly Dab[];
  /** what to draw, by what the next dab says: what is not there none can say */
  readonly hints: Readonly<Partial<Record<Dab['is'], string>>>;
  readonly onChange: (dabs: readonly Dab[], name: string) => void;
}

const DABS = ['this', 'not', 'edge'] as const satisfies readonly Dab['is'][];

/** What the next dab says, and the dabs so far. */
export function DabControls({ owner, at, dabs, hints, onChange }: DabControlsProps) {
  const actions = useActions();
  const inHand = useBench((s) => (s.drawing?.part === at ? dabInHand(s.tool) : undefined));
  return (
    <>
      <Choice
        label={TEXT.nextDab}
        value={inHand ?? ''}
        options={DABS.filter((is) => hints[is]).map((is) => ({ value: is, label: TEXT.dabs[is] }))}
        onChange={(is) => actions.take(dabInHand(is), { owner, part: at })}
      />
      <Hint>{inHand ? hints[inHand] : TEXT.pointAgain}</Hint>
      {dabs.length > 0 && (
        <Row>
          {dabs.map((dab, i) => (
            <Button
              key={i}
              data-plain
              aria-label={TEXT.dropDab(i + 1, TEXT.dabs[dab.is])}
              onPress={() =>
                onChange(
                  dabs.filter((_, k) => k !== i),
                  TEXT.dropDab(i + 1, TEXT.dabs[dab.is]),
                )
              }
            >
              {i + 1} {TEXT.dabs[dab.is]} <X size={12} aria-hidden />
            </Button>
          ))}
        </Row>
      )}
    </>
  );
}

/** Whether the exact cut is there yet. */
export function CutState({ settings }: { readonly settings: ThingSettings }) {
  const { bench } = useBenchParts();
  const state = useBench((s) => {
    const cut = bench.shown(s).built?.compiled.cuts.find((c) => c.settings === settings);
    if (!cut) return '';
    return s.cuts[cut.exact] ? TEXT.cut : s.cuts[cut.rough] ? TEXT.roughCut : TEXT.cutting;
  });
  return state === '' ? null : <Hint role="status">{state}</Hint>;
}
