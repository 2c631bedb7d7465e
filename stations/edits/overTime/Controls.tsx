'use client';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Hint, Row } from '@/ui/Section';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.overTime;
const WAYS = ['mean', 'middle', 'streaks'] as const;

export function OverTimeControls({ id, settings, onChange }: EditControls<'overTime'>) {
  return (
    <>
      <Row>
        {WAYS.map((how) => (
          <Button
            key={how}
            aria-pressed={id !== undefined && settings.how === how}
            onPress={() => onChange({ how }, TEXT.made[how])}
          >
            {TEXT.ways[how]}
          </Button>
        ))}
      </Row>
      {settings.how === 'streaks' && id !== undefined && (
        <Measure
          label={TEXT.reach}
          value={settings.reach}
          min={1}
          max={120}
          step={1}
          format={(v) => `${Math.round(v)} px`}
          onChange={(reach) => onChange({ reach }, TEXT.reach, 'reach')}
        />
      )}
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
