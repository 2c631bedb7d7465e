import { applyPatches, type Draft, enablePatches, freeze, type Patch, produceWithPatches } from 'immer';
import { type Project } from '@/core/recipe/project';

enablePatches();

/** One step that can be taken back. */
export interface Change {
  /** what was done, for the menu and the log */
  readonly label: string;
  /** changes of one gesture share it and become one step */
  readonly gesture?: string;
  readonly forward: readonly Patch[];
  readonly backward: readonly Patch[];
}

/** A project with everything that was done to it. */
export interface History {
  readonly project: Project;
  readonly past: readonly Change[];
  readonly future: readonly Change[];
}

const LONGEST = 300;

export function startHistory(project: Project): History {
  return { project, past: [], future: [] };
}

/**
 * Applies an edit and remembers how to take it back. An edit that changes nothing leaves no step; one with the same `gesture` as the
 * last step joins it.
 */
export function record(
  history: History,
  label: string,
  edit: (draft: Draft<Project>) => void,
  gesture?: string,
): History {
  const [project, forward, backward] = produceWithPatches(history.project, (draft) => {
    edit(draft);
  });
  if (forward.length === 0) return history;
  const last = history.past[history.past.length - 1];
  const joins = gesture !== undefined && last?.gesture === gesture;
  const change: Change = joins
    ? { label, gesture, forward: [...last.forward, ...forward], backward: [...backward, ...last.backward] }
    : { label, gesture, forward, backward };
  const past = [...(joins ? history.past.slice(0, -1) : history.past), change];
  return { project, past: past.slice(-LONGEST), future: [] };
}

/** Takes the last step back; the same history when there is none. */
export function undo(history: History): History {
  const last = history.past[history.past.length - 1];
  if (!last) return history;
  return {
    project: applyPatches(history.project, last.backward),
    past: history.past.slice(0, -1),
    future: [last, ...history.future],
  };
}

/** Does the step again that was taken back last. */
export function redo(history: History): History {
  const [next, ...rest] = history.future;
  if (!next) return history;
  // a gesture that was taken back is closed: later changes do not join it
  return {
    project: applyPatches(history.project, next.forward),
    past: [...history.past, { ...next, gesture: undefined }],
    future: rest,
  };
}

/** Changes the project without a step: measured facts that follow from the recipe anyway. */
export function amend(history: History, change: (project: Project) => Project): History {
  // frozen here: hundreds of measured tiles would else be searched for drafts by the next edit
  const project = freeze(change(history.project), true);
  return project === history.project ? history : { ...history, project };
}
