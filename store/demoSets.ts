import { Problem } from '@/core/proof/problem';

/** A demo set as the server offers it. */
export interface OfferedSet {
  readonly id: string;
  readonly title: string;
  readonly about: string;
  readonly task: string;
  readonly frames: readonly { readonly file: string; readonly url: string }[];
}

const PREFIX = 'demo';

/** The project of a demo set; the bracket is the demo itself. */
export function demoProject(set: string): string {
  return set === 'bracket' ? PREFIX : `${PREFIX}-${set}`;
}

/** The set that a project shows; undefined for any other project. */
export function demoSetOf(project: string): string | undefined {
  if (project === PREFIX) return 'bracket';
  return project.startsWith(`${PREFIX}-`) ? project.slice(PREFIX.length + 1) : undefined;
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
