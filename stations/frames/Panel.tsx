'use client';
import { format, parseISO } from 'date-fns';
import { Trash2 } from 'lucide-react';
import { styled } from 'styled-components';
import { SET_KINDS, type SetKind } from '@/core/capture/setKind';
import { exposureTimeText } from '@/core/capture/exposureValue';
import { type Frame } from '@/core/recipe/project';
import { plates } from '@/core/recipe/setFrames';
import { removeFrame, isLastUsed, setReference, setStops, setUsed } from '@/store/edits/frames';
import { removeSet, renameSet, setHow, setKind } from '@/store/edits/sets';
import { measuresOf } from '@/store/madePixels';
import { Button } from '@/ui/controls/Button';
import { PickOne } from '@/ui/controls/PickOne';
import { TextLine } from '@/ui/controls/TextLine';
import { Toggle } from '@/ui/controls/Toggle';
import { formatStops } from '@/ui/formatFinding';
import { Advice, Hint, Section } from '@/ui/Section';
import { COLOUR, FONT } from '@/ui/tokens';
import { useActions, useBench, useFrames, useScope } from '../benchContext';
import { StationFindings } from '../stationFindings';
import { LensSection } from './LensSection';
import { FRAMES_TEXT as TEXT } from './text';

const Facts = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 3px 12px;
  dt {
    color: ${COLOUR.quiet};
  }
  dd {
    font: 12px ${FONT.number};
    text-align: right;
    overflow-wrap: anywhere;
  }
`;

const Points = styled.ul`
  display: flex;
  flex-direction: column;
  gap: 8px;
  li {
    padding-left: 12px;
    border-left: 2px solid ${COLOUR.line};
  }
`;

function facts(frame: Frame, zero: number): [string, string][] {
  const { seconds, aperture, iso, focalLength, taken } = frame.facts;
  const settings = [seconds && exposureTimeText(seconds), aperture && `f/${aperture}`, iso && `ISO ${iso}`];
  const percent = (share: number): string => `${(100 * share).toFixed(share > 0 && share < 0.1 ? 2 : 1)} %`;
  return [
    ['File', frame.file],
    ['Size', `${frame.width} × ${frame.height}, ${frame.depth} bit`],
    ['Settings', settings.filter(Boolean).join('  ') || 'not stated'],
    ...(focalLength
      ? [['Lens', [frame.facts.lens, `${focalLength} mm`].filter(Boolean).join(', ')] as [string, string]]
      : []),
    ...(taken ? [['Taken', format(parseISO(taken), 'd MMM yyyy HH:mm:ss')] as [string, string]] : []),
    ['Against reference', formatStops(frame.stops - zero)],
    ['Clipped light', percent(frame.clipped.light)],
    ['Clipped dark', percent(frame.clipped.dark)],
    ...(frame.measures.darkNoise === undefined
      ? []
      : [['Noise of darks', `σ ${frame.measures.darkNoise.toFixed(1)}/255`] as [string, string]]),
    ...(frame.measures.sharpness === undefined
      ? []
      : [['Edge sharpness', percent(frame.measures.sharpness)] as [string, string]]),
  ];
}

/** The name of a set and the way out of the project, where there are several. */
function SetSection() {
  const set = useScope()?.set;
  const several = useBench((s) => s.history.project.sets.length > 1);
  const actions = useActions();
  if (!set || !several) return null;
  return (
    <>
      <TextLine
        label={TEXT.called}
        value={set.name}
        onChange={(name) => actions.edit(`Named a set “${name}”`, renameSet(set.id, name), `name ${set.id}`)}
      />
      <Button
        onPress={() => {
          actions.edit(`Took out ${set.name}`, removeSet(set.id));
          actions.go({ set: '', frame: '', layer: '', solo: '' });
        }}
      >
        <Trash2 aria-hidden /> {TEXT.removeSet}
      </Button>
    </>
  );
}

/** Kinds whose frames show one light of one view, so that they can be measured against each other. */
const MEASURED: readonly SetKind[] = ['bracket', 'focus', 'swap', 'stack'];

/** The set as proposed, and what is known of the chosen frame. */
export function FramesPanel() {
  const frames = useFrames();
  const { chosen, task, alone, project } = useBench((s) => ({
    project: s.history.project,
    task: s.history.project.task,
    chosen: s.session.frame,
    alone: plates(s.history.project).find((f) => f.id === s.session.frame),
  }));
  const set = useScope()?.set;
  const actions = useActions();
  const own = alone && { frame: alone, name: alone.file, isReference: false };
  const entry = own ?? frames.find((f) => f.frame.id === chosen) ?? frames[0];
  const zero = frames.find((f) => f.isReference)?.frame.stops ?? 0;
  if (!entry || !set)
    return (
      <>
        <StationFindings station="frames" title={TEXT.name} none={TEXT.none} />
        <Section title={TEXT.good}>
          <Points>
            {TEXT.goodPoints.map((point) => (
              <li key={point}>{point}</li>
            ))}
          </Points>
        </Section>
      </>
    );
  const { frame, name, isReference } = entry;
  const isLast = isLastUsed(project, frame.id);
  const { why, kind } = set;
  return (
    <>
      <StationFindings station="frames" title={TEXT.name} none={TEXT.none} />
      {task && (
        <Section title={TEXT.task}>
          <p>{task}</p>
        </Section>
      )}
      <Section title={TEXT.set}>
        <Advice>{why}</Advice>
        <PickOne
          label={TEXT.kind}
          value={kind}
          options={SET_KINDS.map((value) => ({ value, label: TEXT.kinds[value] }))}
          onChange={(next) =>
            actions.edit(`Merged as: ${TEXT.kinds[next].toLowerCase()}`, setKind(set.id, next))
          }
        />
        <Hint>{frame.stopsSource === 'exif' ? TEXT.exif : TEXT.measured}</Hint>
        <SetSection />
      </Section>
      <Section title={TEXT.prepare}>
        {MEASURED.includes(kind) && <EvenControls />}
        <DustControl />
        <LensSection />
        <Hint>{TEXT.prepareHint}</Hint>
      </Section>
      <Section title={name}>
        <Facts>
          {facts(frame, zero).map(([term, value]) => (
            <div key={term} style={{ display: 'contents' }}>
              <dt>{term}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </Facts>
        {!alone && (
          <Toggle
            label={TEXT.use}
            value={frame.used}
            disabled={isLast}
            onChange={(used) =>
              actions.edit(`${used ? 'Used' : 'Left out'} ${frame.file}`, setUsed(frame.id, used))
            }
          />
        )}
        {alone ? null : isReference ? (
          <Hint>{TEXT.isReference}</Hint>
        ) : (
          <Button onPress={() => actions.edit(`Reference ${frame.file}`, setReference(frame.id))}>
            {TEXT.makeReference}
          </Button>
        )}
        <Button data-plain onPress={() => actions.edit(`Took out ${frame.file}`, removeFrame(frame.id))}>
          <Trash2 aria-hidden />
          {TEXT.remove}
        </Button>
      </Section>
    </>
  );
}

/** Gives back the light that dust took, where there is some. */
function DustControl() {
  const scope = useScope();
  const spots = useBench((s) => (scope && measuresOf(s, scope)?.shades.length) ?? 0);
  const actions = useActions();
  if (!scope || (spots === 0 && !scope.set.prepare.dust)) return null;
  const { id, prepare } = scope.set;
  return (
    <Toggle
      label={TEXT.dust}
      value={prepare.dust ?? false}
      onChange={(on) => {
        const { dust: _, ...rest } = prepare;
        actions.edit(
          on ? 'Took out the dust' : 'Dust as it was shot',
          setHow(id, { prepare: on ? { ...rest, dust: true } : rest }),
        );
      }}
    />
  );
}

/** White balance and exposure of the whole set, as its frames show them. */
function EvenControls() {
  const scope = useScope();
  const known = useBench((s) => scope && measuresOf(s, scope));
  const actions = useActions();
  const used = (scope?.frames ?? []).filter((f) => f.used);
  if (!scope || used.length < 2) return null;
  const { id, prepare, reference } = scope.set;
  const zero = scope.frames.find((f) => f.id === reference)?.stops ?? 0;
  const byPixels = (): void => {
    if (!known) return;
    const stops = new Map(
      used.flatMap((f, i) =>
        known.stops[i] === undefined
          ? []
          : [[f.id, { stops: zero + known.stops[i], source: 'measured' as const }]],
      ),
    );
    actions.edit('Exposures as measured', setStops(stops));
  };
  return (
    <>
      <Toggle
        label={TEXT.even}
        value={prepare.balance === 'even'}
        onChange={(on) =>
          actions.edit(
            on ? 'White balance evened out' : 'White balance as shot',
            setHow(id, { prepare: { ...prepare, balance: on ? 'even' : 'shot' } }),
          )
        }
      />
      <Button isDisabled={!known} onPress={byPixels}>
        {TEXT.byPixels}
      </Button>
    </>
  );
}
