import { render } from '@testing-library/react';
import { type ReactNode } from 'react';
import { type Project } from '@/core/recipe/project';
import { type WorkerPool } from '@/engine/workerPool';
import { BenchProvider, type BenchParts } from '@/stations/benchContext';
import { type Bench, openBench } from '@/store/bench';
import { START } from '@/store/session';

const idle: WorkerPool = { size: 1, run: () => new Promise(() => undefined), close: () => undefined };

/** Renders a part of the interface around a project whose workers never answer. */
export function renderOnBench(
  project: Project,
  children: ReactNode,
  showPlace: BenchParts['showPlace'] = () => undefined,
): Bench {
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  const bench = openBench({ pool: idle, stored, save: () => Promise.resolve() });
  render(<BenchProvider value={{ bench, viewer: idle, showPlace }}>{children}</BenchProvider>);
  return bench;
}
