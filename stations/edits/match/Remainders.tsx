'use client';
import { useEffect, useState } from 'react';
import { matchMapOf, type MatchSettings } from '@/core/edits/match/matchSettings';
import { keptMatch } from '@/core/match/keptMatch';
import { memberSides } from '@/store/matchSides';
import { useBench, useBenchParts } from '../../benchContext';
import { Lines } from '../Lines';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.match;
const STILL_MS = 300;

interface Remainder {
  readonly name: string;
  readonly before: number;
  readonly after: number;
}

export interface RemaindersProps {
  /** id of the layer that is a group */
  readonly group: string;
  readonly settings: MatchSettings;
}

/** What the change that all plates of a group share leaves of each of them. */
export function Remainders({ group, settings }: RemaindersProps) {
  const { bench } = useBenchParts();
  const [found, setFound] = useState<readonly Remainder[]>([]);
  const nodes = useBench((state) => {
    const layers = bench.shown(state).built?.compiled.layers ?? [];
    return layers.map(({ id, picture, beneath }) => `${id} ${picture} ${beneath}`).join(' ');
  });
  useEffect(() => {
    const controller = new AbortController();
    const timer = setTimeout(() => {
      const map = keptMatch(matchMapOf(settings));
      const options = { signal: controller.signal, priority: -2 };
      Promise.all(
        memberSides(bench, group).map(async ({ name, own, about }) => ({
          name,
          ...(await bench.pool.run((tasks) => tasks.apartThrough(own, about, map), options)),
        })),
      )
        .then((all) => {
          if (!controller.signal.aborted) setFound(all);
        })
        .catch(() => undefined);
    }, STILL_MS);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [bench, group, nodes, settings]);
  if (found.length < 2) return null;
  return (
    <Lines>
      <caption>{TEXT.remainders}</caption>
      <thead>
        <tr>
          <th scope="col">{TEXT.lines.deltaE}</th>
          <td>{TEXT.before}</td>
          <td>{TEXT.after}</td>
        </tr>
      </thead>
      <tbody>
        {found.map(({ name, before, after }) => (
          <tr key={name}>
            <th scope="row">{name}</th>
            <td>{before.toFixed(1)}</td>
            <td>{after.toFixed(1)}</td>
          </tr>
        ))}
      </tbody>
    </Lines>
  );
}
