'use client';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { lazy, startTransition, Suspense, useEffect, useState } from 'react';
import { problemSentence } from '@/core/proof/problem';
import { browserPool } from '@/engine/browserPool';
import { type WorkerPool } from '@/engine/workerPool';
import { type Bench, type Screen } from '@/store/bench';
import { keepPreview } from '@/store/keepPreview';
import { openProject } from '@/store/openProject';
import { holdProject } from '@/store/projectLock';
import { Button } from '@/ui/controls/Button';
import { Row } from '@/ui/Section';
import { loadScreen } from './loadInPieces';
import { LOST, Message, Waiting } from './Waiting';

// the workers start, and the first files are read, while the screen itself is still loading
const early = typeof window === 'undefined' ? undefined : loadScreen();
/** milliseconds that a next step waits at most for the page to have drawn the last one */
const DRAWN_WITHIN = 200;
const SCREEN: Screen = {
  calmly: startTransition,
  afterwards: (then) =>
    document.hidden || typeof requestIdleCallback === 'undefined'
      ? then()
      : requestIdleCallback(then, { timeout: DRAWN_WITHIN }),
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

/** Opens the project that the address names, with its workers. One tab at a time has it: two would undo each other's work. */
export function BenchLoader() {
  const id = useSearchParams().get('project') ?? '';
  const [opened, setOpened] = useState<Opened>();
  const [failure, setFailure] = useState('');
  const [elsewhere, setElsewhere] = useState<Elsewhere>();
  const [steals, setSteals] = useState(0);
  useEffect(() => {
    let gone = false;
    let close = (): void => undefined;
    const open = async (): Promise<void> => {
      const hold = await holdProject(id, steals > 0);
      if (!hold) return setElsewhere('open');
      close = hold.release;
      if (gone) return hold.release();
      setElsewhere(undefined);
      const pool = earlyPool ?? browserPool();
      earlyPool = undefined;
      const viewer = browserPool(1);
      const ended = (): void => [pool, viewer].forEach((p) => p.close());
      close = () => (hold.release(), ended());
      const bench = await openProject(id, pool, SCREEN);
      if (gone) return bench.actions.close();
      const stop = keepPreview(bench);
      const flush = bench.actions.flush;
      document.addEventListener('visibilitychange', flush);
      window.addEventListener('pagehide', flush);
      close = () => {
        document.removeEventListener('visibilitychange', flush);
        window.removeEventListener('pagehide', flush);
        stop();
        bench.actions.close();
        hold.release();
        ended();
      };
      void hold.lost.then(() => {
        if (gone) return;
        close();
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
      close();
      setOpened(undefined);
    };
  }, [id, steals]);
  if (failure)
    return (
      <Message>
        <p role="alert">{failure}</p>
        <Link href="/">To the shelf</Link>
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
