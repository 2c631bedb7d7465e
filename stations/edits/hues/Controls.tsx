'use client';
import { Fragment, useState } from 'react';
import { type HueMove, moves, still } from '@/core/edits/hues/hueMove';
import { type HueShares } from '@/core/edits/hues/huesOfPicture';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { formatStops } from '@/ui/formatFinding';
import { Hint, Row } from '@/ui/Section';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';
import { type Measuring, useFound } from '../useFound';
import { HueLadder, MOST_TURN } from './HueLadder';

const TEXT = EDITS_TEXT.hues;

const huesOf: Measuring<HueShares> = (tasks, found) => tasks.hues(found);

/** The hues that the picture holds, and what becomes of each. */
export function HuesControls({ at, settings, onChange }: EditControls<'hues'>) {
  const held = useFound(at, 'hues', huesOf);
  const [chosen, choose] = useState(0);
  // once one is moved, all stay where they were found: what changes before must not move them
  const begun = (now: readonly HueMove[]): readonly HueMove[] =>
    now.length > 0 ? now : (held?.peaks ?? []).map((p) => still(p.at));
  const hues = begun(settings.hues);
  const index = Math.min(chosen, hues.length - 1);
  const hue = hues.at(index);
  if (!hue) return <Hint>{held ? TEXT.colourless : TEXT.looking}</Hint>;
  const change = (which: number, part: Partial<HueMove>, gesture: string): void =>
    onChange(
      (now) => ({ hues: begun(now.hues).map((h, i) => (i === which ? { ...h, ...part } : h)) }),
      TEXT.hue(hues[which].at),
      `${gesture} ${which}`,
    );
  const peak = held?.peaks.find((p) => p.at === hue.at);
  return (
    <>
      <HueLadder
        hues={hues}
        shares={held?.shares}
        chosen={index}
        onChoose={choose}
        onTurn={(which, turn, gesture) => change(which, { turn }, gesture)}
      />
      <b>{peak ? TEXT.held(hue.at, peak.share) : TEXT.hue(hue.at)}</b>
      {/* a line of its own for each: what the hand holds of one is not the next one’s */}
      <Fragment key={index}>
        <Measure
          label={TEXT.turn}
          value={hue.turn}
          min={-MOST_TURN}
          max={MOST_TURN}
          step={1}
          neutral={0}
          format={(v) => `${v < 0 ? '−' : ''}${Math.abs(v)}°`}
          onChange={(turn) => change(index, { turn }, 'turn')}
        />
        <Measure
          label={TEXT.chroma}
          value={hue.chroma}
          min={0}
          max={2}
          step={0.02}
          neutral={1}
          format={(v) => `${Math.round(100 * v)} %`}
          onChange={(chroma) => change(index, { chroma }, 'chroma')}
        />
        <Measure
          label={TEXT.light}
          value={hue.light}
          min={-2}
          max={2}
          step={0.05}
          neutral={0}
          format={formatStops}
          onChange={(light) => change(index, { light }, 'light')}
        />
      </Fragment>
      <Row>
        <Button
          isDisabled={!hues.some(moves)}
          onPress={() => onChange({ hues: hues.map((h) => still(h.at)) }, TEXT.reset)}
        >
          {TEXT.reset}
        </Button>
        {settings.hues.length > 0 && (
          <Button onPress={() => onChange({ hues: (held?.peaks ?? []).map((p) => still(p.at)) }, TEXT.found)}>
            {TEXT.again}
          </Button>
        )}
      </Row>
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
