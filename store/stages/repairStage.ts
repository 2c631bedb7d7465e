import { type FillNodes, type RepairNodes } from '@/core/graph/compiledPicture';
import { type Fact, type Value } from '@/core/graph/tile';
import { type Project } from '@/core/recipe/project';
import { bestFrame, type FrameAgreement } from '@/core/repair/frameAgreement';
import { type FillOffsets } from '@/core/repair/fillOffsets';
import { type RepairSettings } from '@/core/edits/repair/repairSettings';
import { type BenchState, type BuiltPicture } from '../benchState';
import { buildPicture, drawnGraph } from '../buildScene';
import { allEdits, withSettings } from '../edits/list';
import { amend } from '../history';
import { type Stage } from './stage';

/** What is copied where nothing can be: a fact as well, so that it is not looked for again and again. */
const NOTHING: FillOffsets = {
  ...{ level: 0, x: 0, y: 0, width: 0, height: 0 },
  ...{ dx: new Int16Array(0), dy: new Int16Array(0) },
};

const isOffsets = (value: Value): boolean =>
  value.is === 'fact' && typeof value.value === 'object' && value.value !== null && 'dx' in value.value;

/** How well frames stand in for what a repair takes out; undefined until it was measured. */
export function agreementOf(
  state: Pick<BenchState, 'made'>,
  nodes: RepairNodes,
): readonly { readonly frame: string; readonly agreement: FrameAgreement }[] | undefined {
  const fact = state.made[nodes.agreement] as Fact | undefined;
  const found = fact?.value as readonly FrameAgreement[] | undefined;
  return found && [...nodes.frames.keys()].map((frame, i) => ({ frame, agreement: found[i] }));
}

/** What is best put there: the frame that shows it, else pieces from around. */
function choiceOf(state: Pick<BenchState, 'made'>, nodes: RepairNodes): Partial<RepairSettings> | undefined {
  const known = nodes.frames.size === 0 ? [] : agreementOf(state, nodes);
  if (!known) return undefined;
  const best = bestFrame(known.map((k) => k.agreement));
  return best < 0 ? { from: 'around', frame: '' } : { from: 'frame', frame: known[best].frame };
}

/** Every repair that a picture has a region for. */
function repairsOf(
  built: BuiltPicture,
  project: Project,
): readonly { readonly id: string; readonly nodes: RepairNodes; readonly settings: RepairSettings }[] {
  return allEdits(project).flatMap((edit) => {
    const nodes = built.compiled.repairs.get(edit.id);
    return edit.kind === 'repair' && nodes ? [{ id: edit.id, nodes, settings: edit.settings }] : [];
  });
}

/** Measures which frame shows what lies behind what is to go, chooses it unless a hand has, and finds pieces from around where none does. */
export function repairStage(state: BenchState, project: Project): Stage | undefined {
  const built = buildPicture(state, project);
  if (!built) return undefined;
  for (const { id, nodes, settings } of repairsOf(built, project)) {
    const stage = agreeStage(state, built, nodes) ?? chooseStage(state, id, nodes, settings);
    if (stage) return stage;
  }
  for (const nodes of built.compiled.fills) {
    const stage = state.made[nodes.fact] ? undefined : fillStage(built, nodes);
    if (stage) return stage;
  }
  return undefined;
}

/** Whether it is chosen what every repair puts there, and that is at hand. */
export function allRepaired(state: BenchState, project: Project): boolean {
  const built = buildPicture(state, project);
  if (!built) return true;
  return (
    built.compiled.fills.every(({ fact }) => state.made[fact]) &&
    repairsOf(built, project).every(
      ({ id, nodes, settings }) =>
        settings.chosen || (choiceOf(state, nodes) !== undefined && !chooseStage(state, id, nodes, settings)),
    )
  );
}

function agreeStage(state: BenchState, built: BuiltPicture, nodes: RepairNodes): Stage | undefined {
  const { picture, mask, frames, agreement, place } = nodes;
  if (frames.size === 0 || state.made[agreement]) return undefined;
  const lights = [...frames.values()];
  const drawn = drawnGraph(built, [picture, mask, ...lights]);
  if (!drawn) return undefined;
  return {
    key: `agree ${agreement}`,
    text: '',
    run: async (pool, signal) => {
      const asked = { picture, mask, frames: lights };
      const value = await pool.run((tasks) => tasks.agreeFrames(drawn, asked, place.gap), { signal });
      return (now) => ({ made: { ...now.made, [agreement]: { is: 'fact', value } } });
    },
  };
}

function chooseStage(
  state: BenchState,
  id: string,
  nodes: RepairNodes,
  settings: RepairSettings,
): Stage | undefined {
  const choice = settings.chosen ? undefined : choiceOf(state, nodes);
  if (!choice || (choice.from === settings.from && choice.frame === settings.frame)) return undefined;
  return {
    key: `choose ${id} ${nodes.agreement} ${choice.from} ${choice.frame}`,
    text: '',
    // it follows from what is to go: no step of its own
    run: () =>
      Promise.resolve((now) => ({
        history: amend(now.history, (project) => withSettings(project, id, choice)),
      })),
  };
}

function fillStage(
  built: BuiltPicture,
  { fact, picture, mask, within, place, seed }: FillNodes,
): Stage | undefined {
  const drawn = drawnGraph(built, [picture, mask, ...(within === undefined ? [] : [within])]);
  if (!drawn) return undefined;
  const asked = new Set(built.compiled.fills.map((f) => f.fact));
  return {
    key: `fill ${fact}`,
    text: 'Filling from around',
    run: async (pool, signal) => {
      const nodes = { picture, mask, ...(within === undefined ? {} : { within }) };
      const found = await pool.run((tasks) => tasks.fillFrom(drawn, nodes, place.around, seed), { signal });
      return (now) => ({
        made: {
          // what nothing asks for any more goes
          ...Object.fromEntries(
            Object.entries(now.made).filter(([key, v]) => asked.has(key) || !isOffsets(v)),
          ),
          [fact]: { is: 'fact', value: found ?? NOTHING },
        },
      });
    },
  };
}
