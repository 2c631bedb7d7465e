'use client';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { lazy, startTransition, Suspense, useEffect, useState } from 'react';
import { problemSentence } from '@/core/proof/problem';
import { browserPool } from '@/engine/browserPool';
import { type WorkerPool } from '@/engine/workerPool';
import { download } from '@/stations/download';
import { type Bench, type Screen } from '@/store/benchState';
import { loadProject } from '@/store/database';
import { exportStored } from '@/store/exportStored';
import { keepPreview } from '@/store/keepPreview';
import { openProject } from '@/store/openProject';
import { holdProject } from '@/store/projectLock';
import { Button } from '@/ui/controls/Button';
import { Row } from '@/ui/Section';
import { loadScreen } from './loadScreen';
import { LOST, Message, Waiting } from './Waiting';

// the workers start, and the first files are read, while the screen itself is still loading
const early = typeof window === 'undefined' ? undefined : loadScreen();
/** milliseconds that a next step waits at most for the page to have drawn the last one */
const DRAWN_WITHIN = 200;
/** workers that draw the table, a part each */
const VIEWERS = 2;
/** milliseconds after its last movement from which a hand counts as still */
const STILL_MS = 250;
let still: ReturnType<typeof setTimeout> | undefined;
const SCREEN: Screen = {
  calmly: startTransition,
  afterwards: (then) =>
    document.hidden || typeof requestIdleCallback === 'undefined'
      ? then()
      : requestIdleCallback(then, { timeout: DRAWN_WITHIN }),
  whenStill: (then) => {
    clearTimeout(still);
    still = setTimeout(then, STILL_MS);
  },
};
/** the workers of the first project that is opened */
let earlyPool = typeof window === 'undefined' || !self.crossOriginIsolated ? undefined : browserPool();
earlyPool?.wake();
const BenchScreen = lazy(async () => ({ default: (await (early ?? loadScreen())).BenchScreen }));

interface Opened {
  readonly bench: Bench;
  readonly viewer: WorkerPool;
}

/** Why a project is not on the bench. */
type Elsewhere = 'open' | 'taken';

/** what the project that was left last still writes: nothing is opened before it lies in the store */
let leaving: Promise<void> = Promise.resolve();

/**
 * Does something once the browser keeps the application's files: workers that were started before still ask the network for theirs.
 * @returns stops waiting for it
 */
function onceKept(then: () => void): () => void {
  const workers = navigator.serviceWorker as ServiceWorkerContainer | undefined;
  if (!workers || workers.controller) return () => undefined;
  workers.addEventListener('controllerchange', then, { once: true });
  return () => workers.removeEventListener('controllerchange', then);
}

/** Opens the project that the address names, with its workers. One tab at a time has it: two would undo each other's work. */
export function BenchLoader() {
  const id = useSearchParams().get('project') ?? '';
  const [opened, setOpened] = useState<Opened>();
  const [failure, setFailure] = useState('');
  const [elsewhere, setElsewhere] = useState<Elsewhere>();
  const [steals, setSteals] = useState(0);
  useEffect(() => {
    let gone = false;
    let close = (): Promise<void> => Promise.resolve();
    const open = async (): Promise<void> => {
      await leaving;
      if (gone) return;
      const hold = await holdProject(id, steals > 0);
      if (!hold) return setElsewhere('open');
      close = () => Promise.resolve(hold.release());
      if (gone) return hold.release();
      setElsewhere(undefined);
      const pool = earlyPool ?? browserPool();
      earlyPool = undefined;
      const viewer = browserPool(VIEWERS);
      const stopRenewing = onceKept(() => [pool, viewer].forEach((p) => p.renew()));
      const ended = (): void => (stopRenewing(), hold.release(), [pool, viewer].forEach((p) => p.close()));
      close = () => Promise.resolve(ended());
      const bench = await openProject(id, pool, SCREEN);
      if (gone) return void bench.actions.close();
      const stop = keepPreview(bench);
      const flush = (): void => void bench.actions.flush();
      document.addEventListener('visibilitychange', flush);
      window.addEventListener('pagehide', flush);
      let ending: Promise<void> | undefined;
      close = () =>
        (ending ??= (async () => {
          document.removeEventListener('visibilitychange', flush);
          window.removeEventListener('pagehide', flush);
          stop();
          // the lock goes once everything is written
          await bench.actions.close().catch(() => undefined);
          ended();
        })());
      void hold.lost.then(() => {
        if (gone) return;
        void close();
        setOpened(undefined);
        setElsewhere('taken');
      });
      // drawn in pieces, between which files arrive and keys are heard
      startTransition(() => setOpened({ bench, viewer }));
      // so that the first frames need not wait for it
      SCREEN.afterwards(() => !gone && viewer.wake());
    };
    early?.catch(() => setFailure(LOST));
    open().catch((thrown: unknown) => setFailure(problemSentence(thrown, 'Opening the project')));
    return () => {
      gone = true;
      leaving = close();
      setOpened(undefined);
    };
  }, [id, steals]);
  if (failure)
    return (
      <Message>
        <p role="alert">{failure}</p>
        <Row>
          <ExportWhatIsThere id={id} />
          <Link href="/">To the shelf</Link>
        </Row>
      </Message>
    );
  if (elsewhere)
    return (
      <Message>
        <p role="alert">
          {elsewhere === 'open'
            ? 'This project is open in another tab. Two tabs would undo each other’s work.'
            : 'This project was taken over by another tab. Everything done here is kept there.'}
        </p>
        <Row>
          <Button data-main onPress={() => setSteals((n) => n + 1)}>
            Work on it here
          </Button>
          <Link href="/">To the shelf</Link>
        </Row>
      </Message>
    );
  return opened ? (
    <Suspense fallback={<Waiting />}>
      <BenchScreen {...opened} />
    </Suspense>
  ) : (
    <Waiting />
  );
}

/** What is stored of a project that cannot be opened, as a file; nothing where nothing is stored. */
function ExportWhatIsThere({ id }: { id: string }) {
  const [stored, setStored] = useState(false);
  const [packing, setPacking] = useState(false);
  const [failure, setFailure] = useState('');
  useEffect(() => {
    loadProject(id).then(
      (found) => setStored(found !== undefined),
      () => undefined,
    );
  }, [id]);
  const hand = async (): Promise<void> => {
    setPacking(true);
    const pool = browserPool(1);
    try {
      download(await exportStored(id, pool));
    } catch (thrown) {
      setFailure(problemSentence(thrown, 'Packing what is there'));
    } finally {
      pool.close();
      setPacking(false);
    }
  };
  if (failure) return <span role="alert">{failure}</span>;
  return stored ? (
    <Button isDisabled={packing} onPress={() => void hand()}>
      Export what is there
    </Button>
  ) : null;
}
