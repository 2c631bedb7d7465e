'use client';
import { type ComponentProps, memo, useCallback } from 'react';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { allLayers } from '@/core/layers/layer';
import { allEdits } from '@/store/edits/list';
import { type Station, STATIONS } from '@/store/session';
import { worstOf } from '@/store/stationFindings';
import { isOneFrame } from '@/store/stages/mergeStage';
import { useActions, useBench, useFindingSource, useScope } from '@/stations/benchContext';
import { FINISH_TEXT } from '@/stations/finish/text';
import { FIT_TEXT } from '@/stations/fit/text';
import { FRAMES_TEXT } from '@/stations/frames/text';
import { GROUND_TEXT } from '@/stations/ground/text';
import { LAYERS_TEXT } from '@/stations/layers/text';
import { MATCH_TEXT } from '@/stations/match/text';
import { MERGE_TEXT } from '@/stations/merge/text';
import { PROOF_TEXT } from '@/stations/proof/text';
import { findingLine } from '@/ui/formatFinding';
import { COLOUR, focusRing, FONT, TABLET, UPRIGHT } from '@/ui/tokens';
import { VerdictMark } from '@/ui/VerdictMark';

const Nav = styled.nav`
  border-right: 1px solid ${COLOUR.line};
  padding-top: 12px;
  overflow-y: auto;
  ${UPRIGHT} {
    padding: 0;
    border-right: 0;
    border-bottom: 1px solid ${COLOUR.line};
    ol {
      display: grid;
      grid-template-columns: repeat(7, minmax(0, 1fr));
    }
  }
`;

const Step = styled(Button)`
  position: relative;
  display: grid;
  grid-template-columns: 24px 1fr auto;
  width: 100%;
  min-height: 52px;
  padding: 8px 12px 8px 16px;
  border: 0;
  border-left: 3px solid transparent;
  background: none;
  text-align: left;
  cursor: default;
  &[aria-current] {
    background: ${COLOUR.raised};
    border-left-color: ${COLOUR.act};
  }
  &[data-hovered] {
    background: ${COLOUR.raised};
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: -3px;
  }
  b {
    font-weight: 600;
    font-size: 14px;
    line-height: 1.25;
  }
  small {
    display: block;
    color: ${COLOUR.quiet};
    font-size: 12px;
  }
  kbd {
    font: 11px ${FONT.number};
    color: ${COLOUR.quiet};
  }
  svg {
    margin-top: 2px;
  }
  ${TABLET} {
    grid-template-columns: 1fr;
    justify-items: center;
    align-content: center;
    gap: 3px;
    min-height: 61px;
    padding: 6px 4px;
    text-align: center;
    b {
      font-size: 13px;
    }
    kbd {
      display: none;
    }
    /* heard, though there is no room for it */
    small {
      position: absolute;
      width: 1px;
      height: 1px;
      overflow: hidden;
      clip-path: inset(50%);
    }
  }
  ${UPRIGHT} {
    border-left: 0;
    border-bottom: 3px solid transparent;
    &[aria-current] {
      border-bottom-color: ${COLOUR.act};
    }
  }
`;

export const STATION_NAMES: Readonly<Record<Station, string>> = {
  frames: FRAMES_TEXT.name,
  fit: FIT_TEXT.name,
  merge: MERGE_TEXT.name,
  layers: LAYERS_TEXT.name,
  match: MATCH_TEXT.name,
  ground: GROUND_TEXT.name,
  finish: FINISH_TEXT.name,
  proof: PROOF_TEXT.name,
};

/** The stations in working order, each with its most serious finding: progress and record in one. */
export function Trail({ onGo }: { onGo: (station: Station) => void }) {
  const source = useFindingSource();
  const { station: here, paused } = useBench((s) => ({ station: s.session.station, paused: s.paused }));
  const cutOuts = useBench(
    (s) =>
      allLayers(s.history.project.layers).filter(
        (l) => l.shown && l.kind === 'picture' && l.source.kind === 'plate',
      ).length,
  );
  const repaired = useBench(
    (s) =>
      allEdits(s.history.project).filter((e) => e.kind === 'repair' && e.on && e.where !== undefined).length,
  );
  const scope = useScope();
  const oneFrame = scope !== undefined && isOneFrame(scope);
  const actions = useActions();
  const go = useCallback(
    (station: Station): void => {
      if (paused && station === 'merge') actions.resume();
      onGo(station);
    },
    [actions, onGo, paused],
  );
  return (
    <Nav aria-label="Stations">
      <ol>
        {STATIONS.map((station, i) => {
          const worst = worstOf(source, station);
          const line = worst
            ? findingLine(worst)
            : station === 'layers'
              ? cutOuts > 0
                ? `${cutOuts} ${cutOuts === 1 ? 'cut-out' : 'cut-outs'}`
                : 'nothing painted in'
              : station === 'match'
                ? repaired > 0
                  ? `${repaired} repaired`
                  : 'nothing changed'
                : station === 'ground'
                  ? cutOuts > 0
                    ? GROUND_TEXT.asTheyCame(cutOuts)
                    : GROUND_TEXT.nothing
                  : station === 'merge' && oneFrame
                    ? MERGE_TEXT.oneFrame
                    : paused
                      ? 'stopped'
                      : 'not made yet';
          return (
            <li key={station}>
              <FixedStep
                station={station}
                number={i + 1}
                isHere={station === here}
                verdict={worst?.verdict ?? 'none'}
                line={line}
                onPress={go}
              />
            </li>
          );
        })}
      </ol>
    </Nav>
  );
}

interface StepProps {
  readonly station: Station;
  readonly number: number;
  readonly isHere: boolean;
  readonly verdict: ComponentProps<typeof VerdictMark>['verdict'];
  readonly line: string;
  readonly onPress: (station: Station) => void;
}

const FixedStep = memo(function TrailStep({ station, number, isHere, verdict, line, onPress }: StepProps) {
  return (
    <Step aria-current={isHere ? 'step' : undefined} onPress={() => onPress(station)}>
      <VerdictMark verdict={verdict} />
      <span>
        <b>{STATION_NAMES[station]}</b>
        <small>{line}</small>
      </span>
      <kbd aria-hidden>{number}</kbd>
    </Step>
  );
});
