'use client';
import { useEffect, useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { NO_ADJUST, type ZoneMove } from '@/core/match/adjust';
import { adjustCodes } from '@/core/match/adjustPlanes';
import { type ToneShares } from '@/core/finish/toneShares';
import { adjustOf, type AdjustTarget, setAdjust } from '@/store/edits';
import { patchScene } from '@/store/patchScene';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { PickOne } from '@/ui/controls/PickOne';
import { Hint, Row, Section } from '@/ui/Section';
import { COLOUR, FONT } from '@/ui/tokens';
import { useActions, useBench, useBenchParts, useScene } from '../benchContext';
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

/** Tone and colour of a set, a layer or the whole: neutral, zones, saturation. */
export function MatchPanel() {
  const { project, target } = useBench((s) => ({ project: s.history.project, target: s.session.target }));
  const actions = useActions();
  const known = adjustOf(project, target);
  const used: AdjustTarget = known ? target : WHOLE;
  const adjust = known ?? project.match.whole;
  const tones = useTonesIn(used);
  const options = [
    { value: 'whole', label: TEXT.targets.whole },
    { value: 'set', label: TEXT.targets.set },
    ...project.layers.map((l) => ({ value: l.id, label: `Layer ${l.name}` })),
  ];
  const pick = (value: string): void =>
    actions.go({
      target: value === 'whole' || value === 'set' ? { kind: value } : { kind: 'layer', id: value },
    });
  // rungs that are not moved hold their tones still
  const zones = (next: readonly ZoneMove[], name: string, gesture?: string): void =>
    actions.edit(name, setAdjust(used, { zones: next }), gesture);
  const addZone = (): void => {
    const all = allZones(adjust.zones);
    const gaps = all.slice(1).map((z, i) => ({ at: (z.at + all[i].at) / 2, wide: z.at - all[i].at }));
    const widest = gaps.reduce((a, b) => (b.wide > a.wide + 1e-9 ? b : a));
    const zonesNow = [...all, { at: widest.at, by: 0 }].sort((a, b) => a.at - b.at);
    actions.edit('Added a zone', setAdjust(used, { zones: zonesNow }));
  };
  return (
    <>
      <StationFindings station="match" title={TEXT.name} none={TEXT.none} />
      <Section title={TEXT.target}>
        <PickOne label="Change" value={keyOf(used)} options={options} onChange={pick} />
      </Section>
      <NeutralSection target={used} />
      <Section title={TEXT.zones}>
        <ZoneLadder zones={adjust.zones} tones={tones} onChange={zones} />
        <Row>
          <Button onPress={addZone}>{TEXT.addZone}</Button>
          <Button
            isDisabled={adjust.zones.length === 0}
            onPress={() => actions.edit('Zones back', setAdjust(used, { zones: [] }))}
          >
            {TEXT.reset}
          </Button>
        </Row>
        <Hint>{TEXT.zonesHint}</Hint>
      </Section>
      <Section title={TEXT.colour}>
        <Measure
          label={TEXT.saturation}
          value={adjust.saturation}
          min={0}
          max={2}
          step={0.02}
          neutral={1}
          format={(v) => `${Math.round(100 * v)} %`}
          onChange={(saturation) =>
            actions.edit('Saturation', setAdjust(used, { saturation }), `saturation ${keyOf(used)}`)
          }
        />
      </Section>
    </>
  );
}

function NeutralSection({ target }: { target: AdjustTarget }) {
  const { project, inHand } = useBench((s) => ({ project: s.history.project, inHand: s.tool === 'patch' }));
  const actions = useActions();
  const { neutral } = adjustOf(project, target) ?? NO_ADJUST;
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

/** The tones that an adjustment finds, from a small picture. */
function useTonesIn(target: AdjustTarget): ToneShares | undefined {
  const { viewer } = useBenchParts();
  const scene = useScene();
  const [tones, setTones] = useState<ToneShares>();
  const input = useMemo(() => scene && patchScene(scene, target), [scene, target]);
  useEffect(() => {
    if (!input?.merge) return;
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
  }, [viewer, input]);
  return tones;
}
