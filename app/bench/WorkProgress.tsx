'use client';
import { useEffect, useRef, useState } from 'react';
import { type Work } from '@/store/benchState';
import { Button } from '@/ui/controls/Button';
import { leftInWords, type ProgressReading, secondsLeft } from '@/ui/secondsLeft';

/** What is going on, how far it is, how long it will still take, and a way to stop it. */
export function WorkProgress({ work }: { readonly work: Work }) {
  const left = useTimeLeft(work);
  return (
    <>
      <span>{work.text}</span>
      <i
        role="progressbar"
        aria-label={work.text}
        aria-valuenow={Math.round(100 * work.done)}
        aria-valuetext={`${Math.round(100 * work.done)} %${left && `, ${left}`}`}
        style={{ ['--done' as string]: `${100 * work.done}%` }}
      />
      {left && <small aria-hidden>{left}</small>}
      <Button onPress={work.cancel}>Cancel</Button>
    </>
  );
}

/** How long a piece of work will still take, in words. */
function useTimeLeft({ text, done }: Work): string {
  const readings = useRef<{ readonly of: string; readonly list: ProgressReading[] }>(undefined);
  const [left, setLeft] = useState('');
  useEffect(() => {
    const now = { at: performance.now(), done };
    const known = readings.current;
    // another piece of work, or the same one from the start
    const isNew = known?.of !== text || done < (known.list.at(-1)?.done ?? 0);
    const list = isNew ? [now] : [...known.list, now];
    readings.current = { of: text, list };
    setLeft(leftInWords(secondsLeft(list)));
  }, [text, done]);
  return left;
}
