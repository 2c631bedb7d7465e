'use client';
import { useState } from 'react';
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

/** The findings of a station; choosing one opens its sentence and goes to its place. */
export function StationFindings({ station, title, none }: StationFindingsProps) {
  const { showPlace } = useBenchParts();
  const state = useFindingSource();
  const [chosen, setChosen] = useState('');
  const findings = stationFindings(state, station);
  const choose = (f: ShownFinding): void => {
    setChosen(f.id === chosen ? '' : f.id);
    if (f.where && f.id !== chosen) showPlace(f.where, f.frame);
  };
  return (
    <Section title={title}>
      {findings ? <FindingList findings={findings} chosen={chosen} onChoose={choose} /> : <Hint>{none}</Hint>}
    </Section>
  );
}
