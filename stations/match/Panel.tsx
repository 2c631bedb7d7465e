'use client';
import { memo, useEffect, useState } from 'react';
import { styled } from 'styled-components';
import { NO_ADJUST, type ZoneMove } from '@/core/match/adjust';
import { adjustCodes } from '@/core/match/adjustPlanes';
import { type ToneShares } from '@/core/finish/toneShares';
import { layersKey } from '@/store/layersKey';
import { adjustOf, type AdjustTarget, setAdjust } from '@/store/edits';
import { patchScene } from '@/store/patchScene';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { PickOne } from '@/ui/controls/PickOne';
import { Hint, Row, Section } from '@/ui/Section';
import { COLOUR, FONT } from '@/ui/tokens';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { StationFindings } from '../stationFindings';
import { MATCH_TEXT as TEXT } from './text';
import { allZones, ZoneLadder } from './ZoneLadder';

const Codes = styled.div`
  display: grid;
  grid-template-columns: 14px 52px repeat(3, 1fr);
  align-items: center;
  gap: 4px 8px;
  font: 12px ${FONT.number};
  i {
    width: 14px;
    height: 14px;
    border: 1px solid ${COLOUR.control};
  }
  span {
    color: ${COLOUR.quiet};
  }
`;

const WHOLE: AdjustTarget = { kind: 'whole' };

const keyOf = (target: AdjustTarget): string => (target.kind === 'layer' ? target.id : target.kind);

/** What is changed: the target that was chosen, or the whole where that is gone. */
function useTarget(): AdjustTarget {
  return useBench(({ history: { project }, session }) =>
    adjustOf(project, session.target) ? session.target : WHOLE,
  );
}

/** Tone and colour of a set, a layer or the whole: neutral, zones, saturation. Each section follows its own part of the recipe. */
export function MatchPanel() {
  return (
    <>
      <StationFindings station="match" title={TEXT.name} none={TEXT.none} />
      <FixedTarget />
      <FixedNeutral />
      <FixedZones />
      <FixedColour />
    </>
  );
}

function TargetSection() {
  const actions = useActions();
  const target = useTarget();
  const layers = useBench((s) => s.history.project.layers.map((l) => l.id));
  const names = useBench((s) => s.history.project.layers.map((l) => l.name));
  const options = [
    { value: 'whole', label: TEXT.targets.whole },
    { value: 'set', label: TEXT.targets.set },
    ...layers.map((value, i) => ({ value, label: `Layer ${names[i]}` })),
  ];
  const pick = (value: string): void =>
    actions.go({
      target: value === 'whole' || value === 'set' ? { kind: value } : { kind: 'layer', id: value },
    });
  return (
    <Section title={TEXT.target}>
      <PickOne label="Change" value={keyOf(target)} options={options} onChange={pick} />
    </Section>
  );
}

function ZonesSection() {
  const actions = useActions();
  const target = useTarget();
  const moved = useBench((s) => (adjustOf(s.history.project, target) ?? NO_ADJUST).zones);
  const tones = useTonesIn(target);
  // rungs that are not moved hold their tones still
  const zones = (next: readonly ZoneMove[], name: string, gesture?: string): void =>
    actions.edit(name, setAdjust(target, { zones: next }), gesture);
  const addZone = (): void => {
    const all = allZones(moved);
    const gaps = all.slice(1).map((z, i) => ({ at: (z.at + all[i].at) / 2, wide: z.at - all[i].at }));
    const widest = gaps.reduce((a, b) => (b.wide > a.wide + 1e-9 ? b : a));
    const zonesNow = [...all, { at: widest.at, by: 0 }].sort((a, b) => a.at - b.at);
    actions.edit('Added a zone', setAdjust(target, { zones: zonesNow }));
  };
  return (
    <Section title={TEXT.zones}>
      <ZoneLadder zones={moved} tones={tones} onChange={zones} />
      <Row>
        <Button onPress={addZone}>{TEXT.addZone}</Button>
        <Button
          isDisabled={moved.length === 0}
          onPress={() => actions.edit('Zones back', setAdjust(target, { zones: [] }))}
        >
          {TEXT.reset}
        </Button>
      </Row>
      <Hint>{TEXT.zonesHint}</Hint>
    </Section>
  );
}

function ColourSection() {
  const actions = useActions();
  const target = useTarget();
  const value = useBench((s) => (adjustOf(s.history.project, target) ?? NO_ADJUST).saturation);
  return (
    <Section title={TEXT.colour}>
      <Measure
        label={TEXT.saturation}
        value={value}
        min={0}
        max={2}
        step={0.02}
        neutral={1}
        format={(v) => `${Math.round(100 * v)} %`}
        onChange={(saturation) =>
          actions.edit('Saturation', setAdjust(target, { saturation }), `saturation ${keyOf(target)}`)
        }
      />
    </Section>
  );
}

function NeutralSection() {
  const target = useTarget();
  const { neutral, inHand } = useBench((s) => ({
    neutral: adjustOf(s.history.project, target)?.neutral,
    inHand: s.tool === 'patch',
  }));
  const actions = useActions();
  const after = neutral && adjustCodes(neutral.before, { ...NO_ADJUST, neutral });
  const line = (name: string, codes: readonly number[]) => (
    <>
      <i style={{ background: `rgb(${codes.map(Math.round).join(' ')})` }} aria-hidden />
      <span>{name}</span>
      {codes.map((c, i) => (
        <b key={i} style={{ fontWeight: 400 }}>
          {'RGB'[i]} {c.toFixed(1)}
        </b>
      ))}
    </>
  );
  return (
    <Section title={TEXT.neutral}>
      <Button
        data-main={neutral ? undefined : ''}
        aria-pressed={inHand}
        onPress={() => actions.take(inHand ? undefined : 'patch')}
      >
        {inHand ? TEXT.sampling : TEXT.sample}
      </Button>
      {neutral && after && (
        <>
          <Codes aria-label="Codes of the patch">
            {line(TEXT.before, neutral.before)}
            {line(TEXT.after, after)}
          </Codes>
          <Button onPress={() => actions.edit('Neutral dropped', setAdjust(target, { neutral: undefined }))}>
            {TEXT.drop}
          </Button>
        </>
      )}
      <Hint>{TEXT.neutralHint}</Hint>
    </Section>
  );
}

const SMALL = 700;

/** The tones that an adjustment finds, from a small picture; made anew only when what comes before the adjustment has changed. */
function useTonesIn(target: AdjustTarget): ToneShares | undefined {
  const { bench, viewer } = useBenchParts();
  const [tones, setTones] = useState<ToneShares>();
  const madeFrom = useBench((state) => {
    const { scene } = bench.shown(state);
    if (!scene?.merge) return undefined;
    const { pixels, layers, match } = patchScene(scene, target);
    return `${layersKey(layers)}${JSON.stringify([pixels, match])}`;
  });
  useEffect(() => {
    const { scene } = bench.shown(bench.store.getState());
    if (!scene || madeFrom === undefined) return;
    const input = patchScene(scene, target);
    const controller = new AbortController();
    const timer = setTimeout(() => {
      viewer
        .run((tasks) => tasks.tones(input, SMALL), { signal: controller.signal, priority: -2 })
        .then(setTones)
        .catch(() => undefined);
    }, 150);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [bench, viewer, target, madeFrom]);
  return tones;
}

const FixedTarget = memo(TargetSection);
const FixedNeutral = memo(NeutralSection);
const FixedZones = memo(ZonesSection);
const FixedColour = memo(ColourSection);
