import { openProjectFile } from '@/core/codecs/openProjectFile';
import { cropOf, proposedCrop } from '@/core/recipe/cropOf';
import { type Project } from '@/core/recipe/project';
import { recordCsv, recordMarkdown } from '@/core/recipe/recordText';
import { openBench } from '@/store/bench';
import { shelfCard } from '@/store/database';
import { nextStage } from '@/store/stages/nextStage';
import { START, STATIONS } from '@/store/session';
import { stationFindings } from '@/store/stationFindings';
import { poolThat } from '@/tests/poolThat';
import { sampleDecoded } from '@/tests/sampleProject';

export interface ProjectResult {
  readonly outcome: 'opened' | 'refused' | 'slow' | 'broken';
  readonly ms: number;
  readonly said?: string;
  readonly project?: Project;
}

const SLOW = 5000;
/** pixels of all frames that a test lays out */
const MOST_PIXELS = 6e6;

/** Opens a project file as the shelf does, and asks everything of it that the bench asks before a worker is needed. */
export async function judgeProject(packed: Uint8Array): Promise<ProjectResult> {
  const start = performance.now();
  let project: Project | undefined;
  try {
    ({ project } = await (await openProjectFile('hostile.zip', new Blob([packed.slice()]))).read());
    await bearProject(project);
  } catch (thrown) {
    const ms = performance.now() - start;
    const said = thrown instanceof Error ? `${thrown.name}: ${thrown.message}` : String(thrown);
    // a project that passed the gate must be one that the bench can work with
    if (project || !(thrown instanceof Error) || thrown.name !== 'Problem' || !said.includes('“hostile.zip”'))
      return {
        outcome: 'broken',
        ms,
        said: `${said} ${thrown instanceof Error ? thrown.stack : ''}`,
        project,
      };
    return { outcome: ms > SLOW ? 'slow' : 'refused', ms, said };
  }
  const ms = performance.now() - start;
  return { outcome: ms > SLOW ? 'slow' : 'opened', ms, project };
}

async function bearProject(project: Project): Promise<void> {
  const { changed, id } = project;
  shelfCard(id, { project }, undefined);
  recordMarkdown(project, []);
  recordCsv(project);
  cropOf(project);
  proposedCrop(project);
  const stored = { id, changed, project, session: START, past: [], future: [] };
  const bench = openBench({ pool: poolThat(), stored, save: () => Promise.resolve() });
  const pixels = project.frames.reduce((sum, f) => sum + f.width * f.height, 0);
  if (pixels <= MOST_PIXELS) bench.store.setState({ decoded: sampleDecoded(project) });
  const state = bench.store.getState();
  for (const station of STATIONS) stationFindings(state, station);
  nextStage(state);
  bench.shown(state);
  await bench.actions.close();
}
