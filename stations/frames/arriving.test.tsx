import { expect, test } from '@jest/globals';
import { act, render, screen, within } from '@testing-library/react';
import { emptyProject } from '@/core/recipe/emptyProject';
import { emptyImage } from '@/core/raster/encodedImage';
import { type DecodedFrame, type Tasks } from '@/engine/tasks';
import { type WorkerPool } from '@/engine/workerPool';
import { BenchProvider } from '@/stations/benchContext';
import { addFiles } from '@/store/addFiles';
import { openBench } from '@/store/bench';
import { START } from '@/store/session';
import { memoryOriginals } from '@/store/keeping/memoryOriginals';
import { poolThat } from '@/tests/poolThat';
import { ArrivingPicture } from './ArrivingFrames';
import { FramesTray } from './Tray';

test('what was read so far is seen while the other files of the drop are still being read', async () => {
  const answers = new Map<string, (frame: DecodedFrame) => void>();
  const tasks = {
    readings: () => new Promise(() => undefined),
    decode: (file: string) => new Promise((resolve) => answers.set(file, resolve)),
  } as unknown as Tasks;
  const run: WorkerPool['run'] = (task, { signal } = {}) =>
    new Promise((resolve, fail) => {
      signal?.addEventListener('abort', () =>
        fail(Object.assign(new Error('cancelled'), { name: 'AbortError' })),
      );
      task(tasks as never).then(resolve, fail);
    });
  const pool = { ...poolThat(run), size: 2 };
  const project = emptyProject('p', 'Mill', '2026-10-03T18:41:07Z');
  const stored = { id: 'p', changed: project.changed, project, session: START, past: [], future: [] };
  const kept = new Map<string, Uint8Array>();
  const originals = memoryOriginals(kept);
  const bench = openBench({ pool, stored, save: () => Promise.resolve(), originals });
  render(
    <BenchProvider value={{ bench, viewer: pool, showPlace: () => undefined }}>
      <ArrivingPicture />
      <FramesTray />
    </BenchProvider>,
  );
  const files = ['one.jpg', 'two.jpg'].map((name) => ({
    name,
    read: () => Promise.resolve(new Uint8Array(4)),
  }));
  let added: Promise<void> | undefined;
  await act(async () => {
    added = addFiles(bench, files);
    await Promise.resolve();
  });
  expect(screen.queryByRole('img')).toBeNull();
  await act(async () => {
    answers.get('two.jpg')?.({ levels: [emptyImage(60, 40, 255)], hash: 'b' } as unknown as DecodedFrame);
    await new Promise((resolve) => setTimeout(resolve, 0));
  });
  expect(screen.getByText('two.jpg; the others are being read')).toBeInTheDocument();
  const strip = screen.getByRole('list', { name: 'Read so far' });
  expect(
    within(strip)
      .getAllByRole('img')
      .map((i) => i.getAttribute('aria-label')),
  ).toEqual(['two.jpg']);
  expect(kept.size).toBe(1);
  // broken off, nothing that was only read stays on the table
  await act(async () => {
    bench.store.getState().work?.cancel();
    await added;
  });
  expect(screen.queryByRole('img')).toBeNull();
});
