import { Problem } from '@/core/proof/problem';

/** A demo set as the server offers it. */
export interface OfferedSet {
  readonly id: string;
  readonly title: string;
  readonly about: string;
  readonly task: string;
  readonly frames: readonly { readonly file: string; readonly url: string }[];
  /** the set as it was finished: where its recipe and a small picture of it are */
  readonly finished?: { readonly recipe: string; readonly picture: string };
}

const PREFIX = 'demo';
const FINISHED = '-finished';

/** The project of a demo set; the bracket is the demo itself. */
export function demoProject(set: string): string {
  return set === 'bracket' ? PREFIX : `${PREFIX}-${set}`;
}

/** The project of a demo set as it was finished. */
export const finishedProject = (set: string): string => `${PREFIX}-${set}${FINISHED}`;

/** The set that a project shows, and whether finished; undefined for any other project. */
export function demoSetOf(project: string): { readonly set: string; readonly finished: boolean } | undefined {
  if (project === PREFIX) return { set: 'bracket', finished: false };
  if (!project.startsWith(`${PREFIX}-`)) return undefined;
  const name = project.slice(PREFIX.length + 1);
  return name.endsWith(FINISHED)
    ? { set: name.slice(0, -FINISHED.length), finished: true }
    : { set: name, finished: false };
}

/** The sets that ship with this server. */
export async function offeredSets(): Promise<readonly OfferedSet[]> {
  const response = await fetch('/api/demo');
  if (!response.ok)
    throw new Problem(
      'The demo frames have not been shot on this server. Run “npm run demo:shoot”, then reload.',
    );
  return ((await response.json()) as { sets: OfferedSet[] }).sets;
}
