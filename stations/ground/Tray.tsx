'use client';
import { styled } from 'styled-components';
import { platesOnGround } from '@/store/standingPlates';
import { COLOUR, FONT } from '@/ui/tokens';
import { useActions, useBench, useProject } from '../benchContext';
import { GROUND_TEXT as TEXT } from './text';

const [WIDTH, HEIGHT, GROUND, SKY] = [900, 118, 92, 14];
/** distances at which the axis is marked, metres */
const MARKS = [1, 2, 5, 10, 20, 50, 100, 200];
const [NEAREST, FARTHEST] = [0.7, 260];

const along = (metres: number): number =>
  (WIDTH * Math.log(Math.min(FARTHEST, Math.max(NEAREST, metres)) / NEAREST)) / Math.log(FARTHEST / NEAREST);

/** The picture from the side: the eye, and every plate at its distance, as tall as it is. */
export function GroundTray() {
  const actions = useActions();
  const project = useProject();
  const chosen = useBench((s) => s.session.layer);
  const { space } = project;
  const plates = platesOnGround(project).flatMap((p) =>
    p.stood && p.tall ? [{ id: p.layer.id, name: p.layer.name, away: p.stood.distance, tall: p.tall }] : [],
  );
  const eye = space?.camera.height ?? 1.6;
  const most = Math.max(eye, ...plates.map((p) => p.tall)) * 1.15;
  const up = (metres: number): number => GROUND - ((GROUND - SKY) * metres) / most;
  return (
    <Side>
      <h2>
        {TEXT.tray}
        {plates.length === 0 && <small>{TEXT.trayHint}</small>}
      </h2>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="xMidYMid meet">
        <path d={`M0 ${GROUND}H${WIDTH}`} stroke={COLOUR.ink} strokeWidth="1.4" />
        <path d={`M0 ${up(eye)}H${WIDTH}`} stroke={COLOUR.control} strokeDasharray="3 5" />
        <text x="4" y={up(eye) - 4}>
          {`${TEXT.eye} ${TEXT.metres(eye)}`}
        </text>
        {MARKS.map((m) => (
          <g key={m}>
            <path d={`M${along(m)} ${GROUND}v5`} stroke={COLOUR.ink} />
            <text x={along(m)} y={GROUND + 18} textAnchor="middle">
              {`${m} m`}
            </text>
          </g>
        ))}
        {plates.map(({ id, name, away, tall }) => {
          const x = along(away);
          const ink = id === chosen ? COLOUR.act : COLOUR.ink;
          return (
            <g key={id} onClick={() => actions.go({ layer: id })}>
              <path d={`M${x} ${GROUND}V${up(tall)}`} stroke={ink} strokeWidth="5" strokeLinecap="round" />
              <text x={x + 8} y={up(tall) + 11} fill={ink} data-name="">
                {name}
              </text>
            </g>
          );
        })}
      </svg>
    </Side>
  );
}

const Side = styled.div`
  height: 100%;
  padding: 7px 14px 8px;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  h2 {
    font-size: 13px;
    font-weight: 600;
  }
  small {
    margin-left: 12px;
    font-weight: 400;
    color: ${COLOUR.quiet};
    font-size: 12px;
  }
  svg {
    width: 100%;
    height: 100%;
    min-height: 0;
  }
  text {
    font: 11px ${FONT.number};
    fill: ${COLOUR.quiet};
  }
  text[data-name] {
    font-weight: 600;
    fill: ${COLOUR.ink};
  }
`;
