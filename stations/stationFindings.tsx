'use client';
import { memo, useCallback, useState } from 'react';
import { type Station } from '@/store/session';
import { type ShownFinding, stationFindings } from '@/store/stationFindings';
import { FindingList } from '@/ui/FindingList';
import { Hint, Section } from '@/ui/Section';
import { useBenchParts, useFindingSource } from './benchContext';

export interface StationFindingsProps {
  readonly station: Station;
  readonly title: string;
  /** what to say while there are none */
  readonly none: string;
}

const FixedList = memo(FindingList);

/** The same object as long as what it says is the same. */
function useUnchanged<T>(value: T): T {
  const told = JSON.stringify(value);
  const [kept, setKept] = useState({ told, value });
  if (told === kept.told) return kept.value;
  setKept({ told, value });
  return value;
}

/** The findings of a station; choosing one opens its sentence and goes to its place. */
export function StationFindings({ station, title, none }: StationFindingsProps) {
  const { showPlace } = useBenchParts();
  const state = useFindingSource();
  const [chosen, setChosen] = useState('');
  // most changes of the recipe leave the findings as they were, and then their list stands still
  const findings = useUnchanged(stationFindings(state, station));
  const choose = useCallback(
    (f: ShownFinding): void => {
      setChosen(f.id === chosen ? '' : f.id);
      if (f.where && f.id !== chosen) showPlace(f.where, f.frame);
    },
    [chosen, showPlace],
  );
  return (
    <Section title={title}>
      {findings && findings.length > 0 ? (
        <FixedList findings={findings} chosen={chosen} onChoose={choose} />
      ) : (
        <Hint>{none}</Hint>
      )}
    </Section>
  );
}
