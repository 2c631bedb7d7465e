'use client';
import { centredOn } from '@/core/edits/vignette/centredOn';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Hint, Row } from '@/ui/Section';
import { useActions, useBench } from '../../benchContext';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.vignette;

export function VignetteControls({ id, settings, onChange }: EditControls<'vignette'>) {
  const grid = useBench((s) => (id === undefined ? pictureGrid(s.history.project) : undefined));
  // until a subject is drawn, the middle of the picture
  const place = grid ? centredOn(grid) : {};
  const inHand = useBench((s) => s.tool === 'subject');
  const actions = useActions();
  return (
    <>
      <Measure
        label={TEXT.stops}
        value={settings.stops}
        min={0}
        max={4}
        step={0.05}
        format={TEXT.darker}
        onChange={(stops) => onChange({ ...place, stops }, TEXT.stops, 'stops')}
      />
      <Measure
        label={TEXT.inner}
        value={settings.inner}
        min={0}
        max={1.5}
        step={0.05}
        format={TEXT.lighter}
        onChange={(inner) => onChange({ ...place, inner }, TEXT.inner, 'inner')}
      />
      <Row>
        <Button aria-pressed={inHand} onPress={() => actions.take(inHand ? undefined : 'subject')}>
          {inHand ? TEXT.drawing : TEXT.draw}
        </Button>
      </Row>
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
