'use client';
import { useState } from 'react';
import { styled } from 'styled-components';
import { type Told } from '@/core/ground/belong';
import { turnBetween } from '@/core/ground/shadowTip';
import { asSeen } from '@/core/ground/standFindings';
import { worstFinding } from '@/core/proof/finding';
import { type Project } from '@/core/recipe/project';
import { type Change } from '@/store/edits/drafts';
import { setLayer } from '@/store/edits/layers';
import { mirrorAtFoot, setStand } from '@/store/edits/stand';
import { makeBelong } from '@/store/makeBelong';
import { groundFindings, type PlateOnGround } from '@/store/standingPlates';
import { Button } from '@/ui/controls/Button';
import { Hint, Row, Section } from '@/ui/Section';
import { COLOUR, focusRing } from '@/ui/tokens';
import { VerdictMark } from '@/ui/VerdictMark';
import { useActions, useBenchParts, useProject } from '../benchContext';
import { GROUND_TEXT as TEXT } from './text';

export interface PlatesSectionProps {
  readonly plates: readonly PlateOnGround[];
  /** id of the layer that is chosen */
  readonly chosen: string;
}

/** The plates, each with the line that sums up whether it belongs, and what makes it. */
export function PlatesSection({ plates, chosen }: PlatesSectionProps) {
  const { bench } = useBenchParts();
  const actions = useActions();
  const project = useProject();
  const [told, setTold] = useState<{ readonly of: string; readonly facts: Readonly<Record<string, Told>> }>();
  if (plates.length === 0) return null;
  const own = plates.find((p) => p.layer.id === chosen) ?? plates[plates.length - 1];
  const belong = async (): Promise<void> => {
    const { id } = own.layer;
    const done = await makeBelong(bench, id);
    if ('told' in done) setTold({ of: id, facts: done.told });
    else if (done.why) actions.report(done.why);
  };
  return (
    <Section title={TEXT.plates}>
      <Plates>
        {plates.map((plate) => (
          <li key={plate.layer.id}>
            <Plate
              type="button"
              aria-pressed={plate === own}
              onClick={() => actions.go({ layer: plate.layer.id })}
            >
              <BelongsLine plate={plate} project={project} />
            </Plate>
          </li>
        ))}
      </Plates>
      <Row>
        <Button {...(own.standing ? {} : { 'data-main': '' })} onPress={() => void belong()}>
          {own.standing ? TEXT.again : TEXT.belong}
        </Button>
        <Mend plate={own} project={project} />
      </Row>
      {told?.of === own.layer.id && <ToldList facts={told.facts} />}
    </Section>
  );
}

/** Whether a plate belongs: its worst finding, else where it stands. */
function BelongsLine({ plate, project }: { readonly plate: PlateOnGround; readonly project: Project }) {
  const { layer, standing, stood, tall = 0, skyAngle } = plate;
  // where no ground is laid nothing is judged
  const worst = project.space && worstFinding(groundFindings(project, plate));
  const line =
    skyAngle !== undefined
      ? TEXT.sky(skyAngle)
      : !standing
        ? TEXT.lays
        : stood
          ? TEXT.stands(stood.distance, tall)
          : TEXT.air;
  return (
    <>
      <VerdictMark verdict={worst?.verdict ?? 'none'} size={12} />
      <span>
        <b>{layer.name}</b>{' '}
        {worst && (worst.verdict === 'pass' ? TEXT.belongs : (TEXT.off[worst.id] ?? worst.label))}
        <small>{line}</small>
      </span>
    </>
  );
}

/** What mends the worst that is wrong with a plate that stands, in one press. */
function Mend({ plate, project }: { readonly plate: PlateOnGround; readonly project: Project }) {
  const actions = useActions();
  const { id, name } = plate.layer;
  const worst = worstFinding(groundFindings(project, plate));
  const mend = worst && worst.verdict !== 'pass' ? MENDS[worst.id] : undefined;
  if (!mend || !plate.standing) return null;
  const mirrored = worst?.id === 'ground.light' ? mirrorMends(project, plate) : undefined;
  return (
    <>
      <Button data-main onPress={() => actions.edit(`${mend.label}: ${name}`, mend.change(id))}>
        {mend.label}
      </Button>
      {mirrored !== undefined && (
        <Button onPress={() => actions.edit(`${TEXT.mirror}: ${name}`, mirrorAtFoot(id, mirrored))}>
          {TEXT.mirror}
        </Button>
      )}
    </>
  );
}

/** by how much nearer its light must come for a plate to be mirrored, degrees */
const WORTH_IT = 20;

/** Where a plate would be turned left for right, see mirrorAtFoot; undefined where that brings its light no nearer to the picture's. */
function mirrorMends(
  { space }: Pick<Project, 'space'>,
  { standing, foot, grid }: PlateOnGround,
): number | undefined {
  const [own, sun] = [standing?.from.sun, space?.light.sun];
  if (!standing || !own || !sun || !foot) return undefined;
  const seen = asSeen(own, standing.matrix);
  const off = (azimuth: number): number => Math.abs(turnBetween({ ...own, azimuth }, sun));
  if (off(-seen.azimuth) > off(seen.azimuth) - WORTH_IT) return undefined;
  return (foot[0] + 0.5) / Math.max(grid.width, grid.height);
}

const MENDS: Readonly<
  Partial<Record<string, { readonly label: string; readonly change: (layer: string) => Change }>>
> = {
  'ground.light': { label: TEXT.mends.light, change: (id) => setStand(id, { relight: 1 }) },
  'ground.shadow': { label: TEXT.mends.shadow, change: (id) => setStand(id, { shadow: 1 }) },
  'ground.opacity': { label: TEXT.mends.opacity, change: (id) => setLayer(id, { opacity: 1 }) },
};

function ToldList({ facts }: { readonly facts: Readonly<Record<string, Told>> }) {
  return (
    <details>
      <summary>{TEXT.told}</summary>
      {Object.entries(facts).map(([name, told]) => (
        <Hint key={name}>
          {TEXT.facts[name] ?? name}: {TEXT.how(told)}
        </Hint>
      ))}
    </details>
  );
}

const Plates = styled.ul`
  list-style: none;
  display: grid;
  gap: 3px;
`;

const Plate = styled.button`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: center;
  gap: 9px;
  width: 100%;
  padding: 5px 8px;
  border: 1px solid transparent;
  border-radius: 3px;
  background: transparent;
  color: ${COLOUR.ink};
  font: inherit;
  text-align: left;
  small {
    display: block;
    color: ${COLOUR.quiet};
  }
  &:hover {
    background: ${COLOUR.hover};
  }
  &[aria-pressed='true'] {
    border-color: ${COLOUR.act};
  }
  &:focus-visible {
    ${focusRing}
  }
`;
