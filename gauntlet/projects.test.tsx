import { expect, test } from '@jest/globals';
import { act, cleanup } from '@testing-library/react';
import { type Project } from '@/core/recipe/project';
import { parseProject } from '@/core/recipe/parseProject';
import { randomSource } from '@/core/raster/random';
import { FinishPanel } from '@/stations/finish/Panel';
import { FitPanel } from '@/stations/fit/Panel';
import { FramesPanel } from '@/stations/frames/Panel';
import { FramesTray } from '@/stations/frames/Tray';
import { LayersPanel } from '@/stations/layers/Panel';
import { MatchPanel } from '@/stations/match/Panel';
import { MergePanel } from '@/stations/merge/Panel';
import { ProofPanel } from '@/stations/proof/Panel';
import { renderOnBench } from '@/tests/testBench';
import { mutateProject } from './mutateProject';
import { sampleProjects } from './sampleProjects';

// the short form of `npm run gauntlet`; its figures stand in docs/reliability.md
const COUNT = 120;

test(`${COUNT} hostile projects: what the gate lets in, every station can show`, async () => {
  const samples = sampleProjects();
  let opened = 0;
  for (let k = 0; k < COUNT; k++) {
    const value = mutateProject(samples[k % samples.length], randomSource(9_000_011 + k));
    let project: Project;
    try {
      project = parseProject(JSON.parse(JSON.stringify(value)), 'hostile.zip');
    } catch (thrown) {
      expect(thrown).toMatchObject({ name: 'Problem' });
      expect((thrown as Error).message).toContain('“hostile.zip”');
      continue;
    }
    opened++;
    const bench = await act(async () => {
      const made = renderOnBench(
        project,
        <>
          <FramesPanel />
          <FramesTray />
          <FitPanel />
          <MergePanel />
          <LayersPanel />
          <MatchPanel />
          <FinishPanel />
          <ProofPanel />
        </>,
      );
      await Promise.resolve();
      return made;
    });
    await act(async () => Promise.resolve(bench.actions.undo()));
    cleanup();
    await bench.actions.close();
  }
  expect(opened).toBeGreaterThan(COUNT / 10);
  expect(opened).toBeLessThan(COUNT);
});
