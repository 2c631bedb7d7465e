'use client';
import { LIMITS } from '@/core/proof/limits';
import { IDENTITY } from '@/core/raster/matrix3';
import { fitOf, planeFitOf } from '@/core/recipe/setFrames';
import { BENDING_KINDS } from '@/core/recipe/setGraph';
import { type Frame, type SetScope } from '@/core/recipe/project';
import { type Registration } from '@/core/register/registration';
import { type ToolInHand } from '@/store/benchState';
import { setUsed } from '@/store/edits/frames';
import { setBent, setHeld, setKind, setMotion } from '@/store/edits/sets';
import { BarChart } from '@/ui/chart/BarChart';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Measure } from '@/ui/controls/Measure';
import { Advice, Hint, Row, Section } from '@/ui/Section';
import { useActions, useBench, useCompared, useFrames, useScope } from '../benchContext';
import { StationFindings } from '../stationFindings';
import { fitAdvice } from './advice';
import { BendSection } from './BendSection';
import { PairsSection } from './PairsSection';
import { FIT_TEXT as TEXT } from './text';

const MOTIONS = ['auto', 'shift', 'similarity', 'perspective'] as const;
const MODEL_WORDS = {
  shift: 'shifted',
  similarity: 'shifted, turned and scaled',
  perspective: 'tilted as well',
} as const;

/** Findings of the fit, what to do about it, and how the frames may move. */
export function FitPanel() {
  const scope = useScope();
  const { gain, tool, working } = useBench((s) => ({
    gain: s.session.gain,
    tool: s.tool,
    working: s.work !== undefined,
  }));
  const frames = useFrames();
  const compared = useCompared();
  const actions = useActions();
  const advice = scope && fitAdvice(scope);
  const bars = frames.flatMap(({ frame, name }) => {
    const fit = scope && fitOf(scope, frame);
    return frame.used && fit?.fitted ? [{ name, value: fit.residual.typical }] : [];
  });
  return (
    <>
      <StationFindings station="fit" title={TEXT.name} none={working ? TEXT.working : TEXT.none} />
      {advice && (
        <Section title="What to do">
          <Advice>
            {advice.text}
            {advice.action?.kind === 'free' && (
              <Button
                data-main
                onPress={() => actions.edit('Frames move as needed', setMotion(scope?.set.id ?? '', 'auto'))}
              >
                {TEXT.free}
              </Button>
            )}
            {(advice.action?.kind === 'bend' ||
              (advice.action?.kind === 'leaveOut' && advice.action.orBend)) &&
              scope && <Bend scope={scope} id={advice.action.frame.id} file={advice.action.frame.file} />}
            {advice.action?.kind === 'leaveOut' && advice.action.orMoments && (
              <Button
                onPress={() => actions.edit('Merged as: moments', setKind(scope?.set.id ?? '', 'moments'))}
              >
                {TEXT.moments}
              </Button>
            )}
            {advice.action?.kind === 'leaveOut' && (
              <LeaveOut
                id={advice.action.frame.id}
                file={advice.action.frame.file}
                isMain={!advice.action.orBend}
              />
            )}
          </Advice>
        </Section>
      )}
      {scope?.set.kind === 'panorama' && <PairsSection />}
      {scope && scope.set.kind !== 'panorama' && scope.set.kind !== 'developments' && (
        <HowSection scope={scope} tool={tool} compared={compared} />
      )}
      {scope && compared && BENDING_KINDS.has(scope.set.kind) && (
        <BendSection scope={scope} frame={compared} />
      )}
      {bars.length > 1 && (
        <Section title={TEXT.chart}>
          <BarChart
            label={TEXT.chart}
            bars={bars}
            max={Math.max(0.5, ...bars.map((b) => b.value))}
            limit={LIMITS['fit.typical'].watch}
            format={(v) => `${v.toFixed(3)} px`}
          />
        </Section>
      )}
      <Section title={TEXT.compared}>
        <Measure
          label={TEXT.gain}
          value={gain}
          min={1}
          max={32}
          step={1}
          format={(v) => `× ${v}`}
          onChange={(v) => actions.go({ gain: v })}
        />
      </Section>
    </>
  );
}

/** Whether a frame lies exactly on the reference: a measured map never does. */
const isStill = ({ matrix }: Registration): boolean => matrix.every((v, i) => v === IDENTITY[i]);

interface HowProps {
  readonly scope: SetScope;
  readonly tool: ToolInHand | undefined;
  /** the frame that is compared with the reference */
  readonly compared: Frame | undefined;
}

/** How freely the frames may move, and the part that is held. */
function HowSection({ scope, tool, compared }: HowProps) {
  const actions = useActions();
  const { set } = scope;
  const fit = compared && fitOf(scope, compared);
  const plane = compared && planeFitOf(scope, compared);
  return (
    <>
      <Section title={TEXT.move}>
        <Choice
          grid
          label={TEXT.move}
          value={set.motion}
          options={MOTIONS.map((value) => ({ value, label: TEXT.motions[value] }))}
          onChange={(motion) =>
            actions.edit(`Frames may move: ${TEXT.motions[motion].toLowerCase()}`, setMotion(set.id, motion))
          }
        />
        {fit?.fitted && compared && isStill(fit) && <Hint>{TEXT.still(compared.file)}</Hint>}
        {fit?.fitted && compared && !plane?.fitted && <Hint>{TEXT.bentOnly(compared.file)}</Hint>}
        {fit?.fitted && plane?.fitted && compared && !isStill(fit) && (
          <Hint>
            “{compared.file}” was {MODEL_WORDS[fit.model]}: {fit.turnDegrees.toFixed(3).replace('-', '−')}°
            turned, scale {fit.scale.toFixed(5)}; the fit itself
            {fit.by === 'edges' && ', by edges in other light,'} is good to {fit.bound.toFixed(3)} px.
          </Hint>
        )}
      </Section>
      <Section title={TEXT.held}>
        <Row>
          <Button
            aria-pressed={tool === 'held'}
            onPress={() => actions.take(tool === 'held' ? undefined : 'held')}
          >
            {tool === 'held' ? TEXT.drawing : TEXT.draw}
          </Button>
          {set.region && (
            <Button onPress={() => actions.edit('Fit held on the whole picture', setHeld(set.id))}>
              {TEXT.whole}
            </Button>
          )}
        </Row>
        <Hint>{set.region ? TEXT.heldRegion : TEXT.heldWhole}</Hint>
      </Section>
    </>
  );
}

function Bend({ scope, id, file }: { scope: SetScope; id: string; file: string }) {
  const actions = useActions();
  const { set } = scope;
  return (
    <Button
      data-main
      onPress={() => actions.edit(`Bent ${file} to near and far`, setBent(set.id, [...(set.bent ?? []), id]))}
    >
      {TEXT.bendIt}
    </Button>
  );
}

function LeaveOut({ id, file, isMain }: { id: string; file: string; isMain: boolean }) {
  const actions = useActions();
  return (
    <Button
      {...(isMain ? { 'data-main': true } : {})}
      onPress={() => actions.edit(`Left out ${file}`, setUsed(id, false))}
    >
      {TEXT.leaveOut}
    </Button>
  );
}
