'use client';
import { Fragment, useState } from 'react';
import { MOST_POINTS, strengthText } from '@/core/edits/tint/tint';
import { TINT_START, tintLine, type TintPoint } from '@/core/edits/tint/tintLine';
import { tintFrom } from '@/store/tintFrom';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Hint, Row } from '@/ui/Section';
import { useBenchParts } from '../../benchContext';
import { type EditControls } from '../controls';
import { newEditId } from '../editIds';
import { ReferenceMenu } from '../ReferenceMenu';
import { EDITS_TEXT } from '../text';
import { pointName, TintLine } from './TintLine';

const TEXT = EDITS_TEXT.tint;

/** most strength that the hand reaches; a reference may have more */
const REACH = 0.08;

const degreesOf = (a: number, b: number): number =>
  Math.round((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;

const begun = (now: readonly TintPoint[]): readonly TintPoint[] => (now.length > 0 ? now : TINT_START);

/** A point more, in the widest gap, with the tint that the line has there. */
function withPoint(points: readonly TintPoint[]): { readonly points: TintPoint[]; readonly index: number } {
  const line = points.slice().sort((p, q) => p.at - q.at);
  const gaps = line.slice(1).map((p, i) => ({ at: (p.at + line[i].at) / 2, wide: p.at - line[i].at }));
  const widest = gaps.reduce((p, q) => (q.wide > p.wide ? q : p), { at: 0, wide: -1 });
  const at = Math.round(10 * widest.at) / 10;
  const [a, b] = tintLine(points)(at);
  const added = { at, hue: degreesOf(a, b), strength: Math.round(1000 * Math.hypot(a, b)) / 1000 };
  return { points: [...points, added], index: points.length };
}

/** Colour that is added along tone. */
export function TintControls({ at, settings, onChange }: EditControls<'tint'>) {
  const { bench } = useBenchParts();
  const [chosen, choose] = useState(0);
  const points = begun(settings.points);
  const index = Math.min(chosen, points.length - 1);
  const point = points[index];
  const change = (i: number, part: Partial<TintPoint>, gesture: string): void =>
    onChange(
      (now) => ({ points: begun(now.points).map((p, k) => (k === i ? { ...p, ...part } : p)) }),
      pointName(points[i]),
      `${gesture} ${i}`,
    );
  return (
    <>
      <TintLine
        points={points}
        chosen={index}
        onChoose={choose}
        onMove={(i, tone, gesture) => change(i, { at: tone }, gesture)}
      />
      <b>{pointName(point)}</b>
      {/* a line of its own for each: what the hand holds of one is not the next one’s */}
      <Fragment key={index}>
        <Measure
          label={TEXT.hue}
          value={point.hue}
          min={0}
          max={360}
          step={1}
          format={(v) => `${Math.round(v)}°`}
          onChange={(hue) => change(index, { hue }, 'hue')}
        />
        <Measure
          label={TEXT.strength}
          value={point.strength}
          min={0}
          max={Math.max(REACH, point.strength)}
          step={0.001}
          format={strengthText}
          onChange={(strength) => change(index, { strength }, 'strength')}
        />
      </Fragment>
      <Row>
        <Button
          isDisabled={points.length >= MOST_POINTS}
          onPress={() => {
            const more = withPoint(points);
            choose(more.index);
            onChange({ points: more.points }, TEXT.added);
          }}
        >
          {TEXT.add}
        </Button>
        {points.length > 1 && (
          <Button onPress={() => onChange({ points: points.filter((_, i) => i !== index) }, TEXT.removed)}>
            {TEXT.remove}
          </Button>
        )}
        <ReferenceMenu
          at={at}
          label={TEXT.like}
          onChoose={(from) => void tintFrom(bench, at, from, newEditId(at, 'tint'), TEXT.none(from.name))}
        />
      </Row>
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
