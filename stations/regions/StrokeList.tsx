'use client';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { type Stroke } from '@/core/mask/stroke';
import { Button } from '@/ui/controls/Button';
import { Row } from '@/ui/Section';
import { useActions } from '../benchContext';
import { REGION_TEXT as TEXT } from './text';

/** strokes that are listed, the latest first; a hand seldom asks for earlier ones */
const LISTED = 12;

interface StrokeListProps {
  readonly strokes: readonly Stroke[];
  /** strokes that reveal what is taken away were drawn to hide */
  readonly isRemoved: boolean;
  readonly onChange: (strokes: readonly Stroke[], name: string) => void;
}

/** The strokes of a part, the latest first: the one that is pointed at is marked on the picture, and each can be taken out. */
export function StrokeList({ strokes, isRemoved, onChange }: StrokeListProps) {
  const actions = useActions();
  const [all, setAll] = useState(false);
  // no mark stays on the picture when the list goes
  useEffect(() => () => actions.pointStroke(), [actions]);
  const listed = strokes.map((stroke, i) => ({ stroke, i })).reverse();
  const shown = all ? listed : listed.slice(0, LISTED);
  const nameOf = ({ action, inside }: Stroke): string => {
    const name = TEXT.actions[(action === 'reveal') === isRemoved ? 'hide' : 'reveal'];
    return inside ? TEXT.insideStroke(name) : name;
  };
  const point = (i?: number): void => actions.pointStroke(i === undefined ? undefined : strokes[i]);
  if (strokes.length === 0) return null;
  return (
    <Row onPointerLeave={() => point()} onBlur={() => point()}>
      {shown.map(({ stroke, i }) => (
        <Button
          key={i}
          data-plain
          aria-label={TEXT.dropStroke(i + 1, nameOf(stroke))}
          onHoverStart={() => point(i)}
          onFocus={() => point(i)}
          onPress={() => {
            point();
            onChange(
              strokes.filter((_, k) => k !== i),
              TEXT.dropStroke(i + 1, nameOf(stroke)),
            );
          }}
        >
          {i + 1} {nameOf(stroke)} <X size={12} aria-hidden />
        </Button>
      ))}
      {listed.length > shown.length && (
        <Button data-plain onPress={() => setAll(true)}>
          {TEXT.allStrokes(listed.length - shown.length)}
        </Button>
      )}
    </Row>
  );
}
