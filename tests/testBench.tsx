import { render } from '@testing-library/react';
import { type ReactNode } from 'react';
import { type Project } from '@/core/recipe/project';
import { BenchProvider, type BenchParts } from '@/stations/benchContext';
import { type Bench } from '@/store/benchState';
import { openBench } from '@/store/bench';
import { START } from '@/store/session';
import { poolThat } from './poolThat';

const idle = poolThat();

/** A bench around a project whose workers never answer. */
export function benchOf(project: Project): Bench {
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  return openBench({ pool: idle, stored, save: () => Promise.resolve() });
}

/** Renders a part of the interface on {@link benchOf} a project. */
export function renderOnBench(
  project: Project,
  children: ReactNode,
  showPlace: BenchParts['showPlace'] = () => undefined,
): Bench {
  const bench = benchOf(project);
  render(<BenchProvider value={{ bench, viewer: idle, showPlace }}>{children}</BenchProvider>);
  return bench;
}
