'use client';
import { useState } from 'react';
import { type RegionSpecks } from '@/core/region/edge/specks';
import { setRegion, type RegionOwner } from '@/store/edits/regions';
import { Button } from '@/ui/controls/Button';
import { Hint, Row } from '@/ui/Section';
import { useActions, useBenchParts } from '../benchContext';
import { REGION_TEXT as TEXT } from './text';

/** a window outvotes a disc that fills less than half of it: its half side against the disc's radius, with some to spare */
const WINDOW = 1.4;
/** widest smoothing that is proposed, fraction of the long edge */
const WIDEST = 0.02;
/** pixels that are shown around a speck */
const AROUND = 60;

interface SpeckProps {
  readonly specks: RegionSpecks;
  readonly owner: RegionOwner;
  readonly name: string;
  readonly longEdge: number;
  /** smoothing that the region has already, fraction of the long edge */
  readonly smooth: number;
}

/** Holes and crumbs of a region: how many, where, and gone in one action. */
export function SpeckLine({ specks: { holes, crumbs }, owner, name, longEdge, smooth }: SpeckProps) {
  const actions = useActions();
  const { showPlace } = useBenchParts();
  const [next, setNext] = useState(0);
  const places = [...holes.places, ...crumbs.places];
  if (places.length === 0) return null;
  const largest = Math.max(holes.largest, crumbs.largest);
  const wanted = Math.min(WIDEST, Math.max(smooth, (WINDOW * largest + 1) / longEdge));
  return (
    <>
      <Hint>{TEXT.specks(holes.count, crumbs.count, largest)}</Hint>
      <Row>
        <Button
          onPress={() => {
            const { x, y, width, height } = places[next % places.length];
            setNext(next + 1);
            showPlace({
              ...{ x: x - AROUND, y: y - AROUND },
              ...{ width: width + 2 * AROUND, height: height + 2 * AROUND },
            });
          }}
        >
          {TEXT.nextSpeck}
        </Button>
        <Button
          isDisabled={wanted === smooth}
          onPress={() => actions.edit(`${TEXT.dropSpecks}: ${name}`, setRegion(owner, { smooth: wanted }))}
        >
          {TEXT.dropSpecks}
        </Button>
      </Row>
    </>
  );
}
