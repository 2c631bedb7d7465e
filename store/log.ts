import { type Finding } from '@/core/proof/finding';
import { contentHash } from '@/core/graph/contentHash';
import { plainText } from '@/core/recipe/plainText';
import { type LoggedFinding, type LogEntry, type Settings } from '@/core/recipe/project';
import { settingsOf } from '@/core/recipe/settings';
import { amend, type History } from './history';

const LONGEST_LOG = 2000;
/** a pause longer than this is no work on the step, seconds */
const LONGEST_STEP = 600;

/** Adds a line to the record, newest last; the oldest of very many give way. */
function addLine(history: History, line: Omit<LogEntry, 'time'>): History {
  const time = new Date().toISOString();
  return amend(history, (project) => ({
    ...project,
    changed: time,
    log: [...project.log, { time, ...line, text: plainText(line.text, 400) }].slice(-LONGEST_LOG),
  }));
}

/** of one line, the worst of them */
const MOST_FINDINGS = 40;

const RANK = { fail: 0, watch: 1, pass: 2 } as const;

function logged(findings: readonly Finding[]): LoggedFinding[] {
  return findings
    .filter((f) => Number.isFinite(f.value))
    .map(({ label, value, unit, verdict }) => ({ label, value, unit, verdict }))
    .sort((a, b) => RANK[a.verdict] - RANK[b.verdict])
    .slice(0, MOST_FINDINGS);
}

/** Records what was computed, how long it took, and what was found. */
export function logMade(
  history: History,
  text: string,
  seconds: number,
  findings: readonly Finding[],
): History {
  return addLine(history, { text, seconds: Math.round(seconds * 100) / 100, findings: logged(findings) });
}

/** The step whose settings an edit may have changed, and the set that it changed: the part of the recipe that is another one now. */
function changedStep(before: History, after: History): Settings | undefined {
  const [a, b] = [before.project, after.project];
  for (const set of b.sets) {
    const old = a.sets.find((s) => s.id === set.id);
    if (!old || old === set) continue;
    if (old.motion !== set.motion) return settingsOf(b, set, 'fit');
    const toned = (edits: typeof set.edits): unknown => edits.find((e) => e.kind === 'toneMap');
    if (
      old.merge !== set.merge ||
      old.method !== set.method ||
      old.response !== set.response ||
      toned(old.edits) !== toned(set.edits)
    )
      return settingsOf(b, set, 'merge');
    if (old.edits !== set.edits) return settingsOf(b, set, 'match');
  }
  const base = b.sets.find((s) => s.id === b.base);
  if (!base) return undefined;
  if (a.edits !== b.edits) {
    const late = (edits: typeof b.edits): string =>
      edits
        .filter((e) => isFinish(e.kind))
        .map((e) => contentHash(e))
        .join();
    return settingsOf(b, base, late(a.edits) === late(b.edits) ? 'match' : 'finish');
  }
  return a.geometry.ratio !== b.geometry.ratio ? settingsOf(b, base, 'finish') : undefined;
}

const isFinish = (kind: string): boolean => kind === 'noise' || kind === 'exposure' || kind === 'sharpen';

/** how lines begin that tell of a step taken back, and done again */
export const [TOOK_BACK, DID_AGAIN] = ['Took back: ', 'Did again: '];

/** Records an edit with the settings it led to and the time since the step before. */
export function logEdit(before: History, after: History, text: string): History {
  const settings = changedStep(before, after);
  const last = after.project.log[after.project.log.length - 1];
  const spent = last ? (Date.now() - Date.parse(last.time)) / 1000 : NaN;
  return addLine(after, {
    text,
    ...(spent >= 0 && spent <= LONGEST_STEP ? { seconds: Math.round(spent * 10) / 10 } : {}),
    ...(settings ? { settings } : {}),
  });
}

/** The last line again, for a gesture that went on: its settings follow. */
export function logJoined(before: History, after: History): History {
  const settings = changedStep(before, after);
  if (!settings) return after;
  return amend(after, (project) => {
    const last = project.log[project.log.length - 1];
    if (!last?.settings) return project;
    return { ...project, log: [...project.log.slice(0, -1), { ...last, settings }] };
  });
}

/** Records something that is neither an edit nor computed. */
export function logNote(history: History, text: string): History {
  return addLine(history, { text });
}
