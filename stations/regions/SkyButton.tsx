'use client';
import { useState } from 'react';
import { problemSentence } from '@/core/proof/problem';
import { type RegionOwner } from '@/store/edits/regions';
import { Button } from '@/ui/controls/Button';
import { Hint } from '@/ui/Section';
import { useBenchParts } from '../benchContext';
import { addSky } from './addSky';
import { REGION_TEXT as TEXT } from './text';

interface SkyProps {
  readonly owner: RegionOwner;
  readonly name: string;
  /** whether a thing is there already: then only what was said of it is shown */
  readonly isThere: boolean;
}

/** Finds the sky without a dab, and says how sure it is. */
export function SkyButton({ owner, name, isThere }: SkyProps) {
  const { bench, viewer } = useBenchParts();
  const [says, setSays] = useState('');
  const looking = says === TEXT.findingSky;
  const find = (): void => {
    setSays(TEXT.findingSky);
    addSky({ bench, viewer, owner, name })
      .catch((thrown: unknown) => problemSentence(thrown, TEXT.findingSky))
      .then(setSays)
      .catch(() => undefined);
  };
  return (
    <>
      {!isThere && (
        <Button isDisabled={looking} onPress={find}>
          {TEXT.sky}
        </Button>
      )}
      {says !== '' && <Hint role="status">{says}</Hint>}
    </>
  );
}
