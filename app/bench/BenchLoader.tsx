'use client';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { useEffect, useState } from 'react';
import { styled } from 'styled-components';
import { problemSentence } from '@/core/proof/problem';
import { browserPool } from '@/engine/browserPool';
import { type WorkerPool } from '@/engine/workerPool';
import { type Bench } from '@/store/bench';
import { keepPreview } from '@/store/keepPreview';
import { openProject } from '@/store/openProject';
import { BenchScreen } from './BenchScreen';

const Message = styled.main`
  padding: 48px;
  max-width: 60ch;
`;

interface Opened {
  readonly bench: Bench;
  readonly viewer: WorkerPool;
}

/** Opens the project that the address names, with its workers. */
export function BenchLoader() {
  const id = useSearchParams().get('project') ?? '';
  const [opened, setOpened] = useState<Opened>();
  const [failure, setFailure] = useState('');
  useEffect(() => {
    let gone = false;
    let close = (): void => undefined;
    const open = async (): Promise<void> => {
      const pool = browserPool();
      const viewer = browserPool(1);
      close = () => [pool, viewer].forEach((p) => p.close());
      const bench = await openProject(id, pool);
      if (gone) return bench.actions.close();
      const stop = keepPreview(bench);
      close = () => {
        stop();
        bench.actions.close();
        [pool, viewer].forEach((p) => p.close());
      };
      setOpened({ bench, viewer });
    };
    open().catch((thrown: unknown) => setFailure(problemSentence(thrown, 'Opening the project')));
    return () => {
      gone = true;
      close();
      setOpened(undefined);
    };
  }, [id]);
  if (failure)
    return (
      <Message>
        <p role="alert">{failure}</p>
        <Link href="/">To the shelf</Link>
      </Message>
    );
  return opened ? <BenchScreen {...opened} /> : <Message aria-busy>Opening the project …</Message>;
}
