import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { AppRouterContext } from 'next/dist/shared/lib/app-router-context.shared-runtime';
import { Problem } from '@/core/proof/problem';
import { deleteProject, saveProject, shelfCards, storedProjects } from '@/store/database';
import { START } from '@/store/session';
import { poolThat } from '@/tests/poolThat';
import { sampleProject } from '@/tests/sampleProject';
import { Shelf } from './Shelf';

const user = userEvent.setup();
const push = jest.fn();
const router = {
  push,
  replace: jest.fn(),
  refresh: jest.fn(),
  back: jest.fn(),
  forward: jest.fn(),
  prefetch: jest.fn(),
} as unknown as NonNullable<Parameters<typeof AppRouterContext.Provider>[0]['value']>;

// what opens a project file has tests of its own
const pool = poolThat((task) =>
  task({
    readProjectFile: (file: string) => Promise.reject(new Problem(`“${file}” holds no recipe.`)),
  } as never),
);

const DEMO = {
  sets: ['bracket', 'focus'].map((id) => ({
    id,
    title: `The ${id}`,
    about: 'six frames',
    task: 'Make one of it.',
    frames: ['a', 'b', 'c'].map((file) => ({ file, url: `/api/demo/${id}-${file}.jpg` })),
  })),
};

const put = (id: string, title: string, changed: string): Promise<void> => {
  const project = { ...sampleProject(), id, title, changed };
  return saveProject({ id, changed, project, session: START, past: [], future: [] });
};

const shown = (): void =>
  void render(
    <AppRouterContext.Provider value={router}>
      <Shelf makePool={() => pool} />
    </AppRouterContext.Provider>,
  );

beforeEach(() => {
  globalThis.fetch = (() =>
    Promise.resolve({ ok: true, json: () => Promise.resolve(DEMO) })) as unknown as typeof fetch;
  push.mockClear();
});

afterEach(async () => {
  for (const { id } of await shelfCards()) await deleteProject(id);
});

describe('the shelf', () => {
  test('shows the projects of this browser, last changed first, each with its frames and its day', async () => {
    await put('p1', 'Older', '2026-10-03T18:41:07Z');
    await put('p2', 'Newer', '2026-10-04T09:00:00Z');
    shown();
    const list = await screen.findByRole('list', { name: 'Projects' });
    await within(list).findByText('Newer');
    const links = within(list).getAllByRole('link');
    expect(links.map((l) => l.getAttribute('href'))).toEqual(['/bench?project=p2', '/bench?project=p1']);
    expect(links[1]).toHaveTextContent(/Older3 frames, 3 Oct 2026/);
  });

  test('offers the demo sets that were not opened yet', async () => {
    await put('demo', 'The bracket', '2026-10-03T18:41:07Z');
    shown();
    const sets = await screen.findByRole('list', { name: 'Demo sets' });
    expect(within(sets).getAllByRole('link')).toHaveLength(1);
    expect(within(sets).getByRole('link')).toHaveAttribute('href', '/bench?project=demo-focus');
  });

  test('a set leads to itself and to its finished picture, until both were opened', async () => {
    const [bracket, focus] = DEMO.sets;
    const finished = { recipe: '/api/demo/finished/focus.json', picture: '/api/demo/finished/focus.jpg' };
    const offered = { sets: [bracket, { ...focus, finished }] };
    globalThis.fetch = (() =>
      Promise.resolve({ ok: true, json: () => Promise.resolve(offered) })) as unknown as typeof fetch;
    await put('demo-focus', 'The focus', '2026-10-03T18:41:07Z');
    shown();
    const sets = await screen.findByRole('list', { name: 'Demo sets' });
    const addresses = (): (string | null)[] =>
      within(sets)
        .getAllByRole('link')
        .map((l) => l.getAttribute('href'));
    expect(addresses()).toEqual(['/bench?project=demo', '/bench?project=demo-focus-finished']);
    expect(within(sets).getByText('as finished by us, with its record')).toBeInTheDocument();
    expect(
      within(sets)
        .getByRole('link', { name: /^The focus/ })
        .querySelector('div'),
    ).toHaveStyle({
      backgroundImage: 'url(/api/demo/finished/focus.jpg)',
    });
  });

  test('is there without a demo as well', async () => {
    globalThis.fetch = (() => Promise.resolve({ ok: false })) as unknown as typeof fetch;
    await put('p1', 'Mine', '2026-10-03T18:41:07Z');
    shown();
    expect(await screen.findByText('Mine')).toBeInTheDocument();
    expect(screen.queryByText(/To try/)).toBeNull();
    expect(screen.queryByRole('alert')).toBeNull();
  });

  test('a project is taken off, the others stay', async () => {
    await put('p1', 'Keep', '2026-10-03T18:41:07Z');
    await put('p2', 'Go', '2026-10-04T18:41:07Z');
    shown();
    await user.click(await screen.findByRole('button', { name: 'Take “Go” off the shelf' }));
    await waitFor(() => expect(screen.queryByText('Go')).toBeNull());
    expect((await shelfCards()).map((p) => p.id)).toEqual(['p1']);
  });

  test.each<[string, (p: Record<string, unknown>) => void]>([
    ['a date that is none', (p) => (p.changed = 'not a date')],
    ['no frames', (p) => delete p.frames],
    ['a title that is none', (p) => (p.title = 7)],
    ['no record', (p) => (p.log = 'never')],
  ])('%s: the project is a card with a sentence, and the others are there', async (_, spoil) => {
    await put('p1', 'Whole', '2026-10-03T18:41:07Z');
    const project: Record<string, unknown> = { ...sampleProject(), id: 'p2', title: 'Torn' };
    spoil(project);
    const changed = String(project.changed);
    await saveProject({ id: 'p2', changed, project, session: START, past: [], future: [] } as never);
    shown();
    expect(await screen.findByRole('link', { name: /Whole/ })).toBeInTheDocument();
    expect(screen.getByText(/This project is damaged and cannot be opened/)).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Export what is there' })).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: /Take “(Torn|A project without a title)” off/ }));
    await waitFor(() => expect(screen.queryByText(/is damaged/)).toBeNull());
    expect((await shelfCards()).map((c) => c.id)).toEqual(['p1']);
  });

  test('identities of any characters stay whole in the address', async () => {
    await put('a&b=c#d%2e', 'Odd', '2026-10-03T18:41:07Z');
    shown();
    const link = await screen.findByRole('link', { name: /Odd/ });
    const address = new URL(link.getAttribute('href') ?? '', 'http://127.0.0.1');
    expect(address.searchParams.get('project')).toBe('a&b=c#d%2e');
  });

  test('a new project is stored before the bench opens it', async () => {
    shown();
    await user.click(screen.getByRole('button', { name: 'New project' }));
    await waitFor(() => expect(push).toHaveBeenCalledTimes(1));
    const [stored] = await storedProjects();
    expect(push).toHaveBeenCalledWith(`/bench?project=${stored.id}`);
    expect(stored.project).toMatchObject({ title: 'Untitled picture', frames: [] });
  });

  test('a file that is no project ends as a sentence with its name, and nothing is stored', async () => {
    shown();
    const chooser = document.querySelector('input[type=file]');
    if (!(chooser instanceof HTMLInputElement)) throw new Error('no chooser');
    const file = new File(['no zip'], 'notes.zip');
    await user.upload(chooser, file);
    expect(await screen.findByRole('alert')).toHaveTextContent('“notes.zip” holds no recipe');
    expect(push).not.toHaveBeenCalled();
    expect(await shelfCards()).toEqual([]);
  });
});
