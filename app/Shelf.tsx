'use client';
import { format, parseISO } from 'date-fns';
import { Download, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { type CSSProperties, startTransition, useCallback, useEffect, useMemo, useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import { styled } from 'styled-components';
import { problemSentence } from '@/core/proof/problem';
import { browserPool } from '@/engine/browserPool';
import { isCancelled, type WorkerPool } from '@/engine/workerPool';
import { download } from '@/stations/download';
import { benchAddress } from '@/store/benchAddress';
import { deleteProject, removeOrphans, type ShelfCard, shelfCards } from '@/store/database';
import { demoProject, finishedProject, type OfferedSet, offeredSets } from '@/store/demoSets';
import { exportStored } from '@/store/exportStored';
import { importProject } from '@/store/importProject';
import { savingProblem } from '@/store/keeping/savingProblem';
import { newProject } from '@/store/newProject';
import { PROJECT_SHELF } from '@/store/projectShelf';
import { Button } from '@/ui/controls/Button';
import { Row } from '@/ui/Section';
import { COLOUR, focusRing, FONT } from '@/ui/tokens';
import { VerdictMark } from '@/ui/VerdictMark';

const Page = styled.main`
  max-width: 1120px;
  margin: 0 auto;
  padding: 34px 28px;
  header {
    display: flex;
    align-items: baseline;
    gap: 10px;
    margin-bottom: 26px;
  }
  h1 {
    font-size: 22px;
    font-weight: 600;
    letter-spacing: 0.02em;
  }
  h2 {
    font-size: 14px;
    font-weight: 600;
    margin: 28px 0 12px;
  }
  header p {
    flex: 1;
    color: ${COLOUR.quiet};
  }
`;

const Projects = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 18px;
`;

const Card = styled.li`
  position: relative;
  border: 1px solid ${COLOUR.line};
  background: ${COLOUR.raised};
  a {
    display: block;
    color: ${COLOUR.ink};
    text-decoration: none;
  }
  a:focus-visible {
    ${focusRing}
  }
  a:hover div {
    filter: brightness(1.05);
  }
  div {
    height: 168px;
    background: ${COLOUR.table} center / cover;
  }
  b {
    display: block;
    padding: 9px 44px 0 12px;
    font-weight: 600;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    display: block;
    padding: 1px 12px 10px;
    font: 11.5px/1.5 ${FONT.number};
    color: ${COLOUR.quiet};
  }
  a + a {
    padding: 0 12px 11px;
    color: ${COLOUR.quiet};
    font-size: 12px;
    text-decoration: underline;
    text-underline-offset: 3px;
  }
  a + a:hover {
    color: ${COLOUR.ink};
  }
  > p {
    padding: 4px 12px 8px;
  }
  > p + div {
    height: auto;
    padding: 0 12px 12px;
    background: none;
  }
  > button {
    position: absolute;
    right: 6px;
    bottom: 12px;
  }
`;

/** what a set leads to besides itself */
const FINISHED = 'as finished by us, with its record';

const Doing = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
  margin-bottom: 18px;
`;

const Failure = styled.p`
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 18px;
  padding: 8px 12px;
  border: 1px solid ${COLOUR.control};
  background: ${COLOUR.raised};
`;

/** Something that takes a while on the shelf. */
interface ShelfWork {
  readonly text: string;
  readonly cancel: () => void;
}

/**
 * All projects of this browser.
 * @param makePool the worker that project files are opened and packed in
 */
export function Shelf({ makePool = () => browserPool(1) }: { makePool?: () => WorkerPool }) {
  const [cards, setCards] = useState<readonly ShelfCard[]>();
  const [failure, setFailure] = useState('');
  const [work, setWork] = useState<ShelfWork>();
  const [offered, setOffered] = useState<readonly OfferedSet[]>([]);
  const router = useRouter();
  const refresh = useCallback(
    (): Promise<void> =>
      shelfCards().then(
        // many are drawn in pieces
        (read) => startTransition(() => setCards(read)),
        (thrown: unknown) => setFailure(problemSentence(thrown, 'Opening the shelf')),
      ),
    [],
  );
  useEffect(() => {
    void refresh().then(() => removeOrphans().catch(() => undefined));
  }, [refresh]);
  useEffect(() => {
    // a server without demo frames has a shelf all the same
    offeredSets().then(setOffered, () => undefined);
  }, []);
  const isOpened = (id: string): boolean => cards?.some((c) => c.id === id) ?? false;
  const toTry = offered.flatMap((set) => {
    const own = demoProject(set.id);
    const finished = set.finished && finishedProject(set.id);
    const left = [own, ...(finished ? [finished] : [])].filter((id) => !isOpened(id));
    return left.length > 0 ? [{ set, first: left[0], finished: left[1] }] : [];
  });

  /** Does something with a worker of its own, that can be cancelled. */
  const during = async (
    text: string,
    run: (pool: WorkerPool, signal: AbortSignal, progress: (done: number) => void) => Promise<void>,
  ): Promise<void> => {
    const controller = new AbortController();
    const cancel = (): void => controller.abort();
    setFailure('');
    setWork({ text, cancel });
    let pool: WorkerPool | undefined;
    try {
      pool = makePool();
      await run(pool, controller.signal, (done) =>
        setWork({ text: `${text}, ${Math.round(100 * done)} %`, cancel }),
      );
    } catch (thrown) {
      if (!isCancelled(thrown)) setFailure(problemSentence(thrown, text));
    } finally {
      pool?.close();
      setWork(undefined);
    }
  };
  const open = (file: File): Promise<void> =>
    during(`Opening “${file.name}”`, async (pool, signal, onProgress) => {
      const stored = await importProject(pool, file.name, file, PROJECT_SHELF, { signal, onProgress });
      router.push(benchAddress(stored.id));
    });
  const rescue = ({ id, title }: ShelfCard): Promise<void> =>
    during(`Packing what is left of “${title}”`, async (pool) => download(await exportStored(id, pool)));
  const remove = ({ id, title }: ShelfCard): Promise<void> =>
    deleteProject(id).then(refresh, (thrown: unknown) =>
      setFailure(problemSentence(thrown, `Taking “${title}” off the shelf`)),
    );
  const start = (): Promise<void> =>
    newProject('Untitled picture').then(
      (id) => router.push(benchAddress(id)),
      (thrown: unknown) => setFailure(savingProblem(thrown)),
    );
  return (
    <Page>
      <header>
        <h1>marsh</h1>
        <p>
          Fit, merge, layer and deliver brackets, focus sets, panoramas, moments and stacks, with every step
          measured.
        </p>
        <FileTrigger acceptedFileTypes={['.zip']} onSelect={(files) => files?.[0] && void open(files[0])}>
          <Button isDisabled={work !== undefined}>Open a project file</Button>
        </FileTrigger>
        <Button data-main onPress={() => void start()}>
          New project
        </Button>
      </header>
      {work && (
        <Doing role="status">
          <span>{work.text}</span>
          <Button onPress={work.cancel}>Cancel</Button>
        </Doing>
      )}
      {failure && (
        <Failure role="alert">
          <VerdictMark verdict="watch" />
          <span>{failure}</span>
        </Failure>
      )}
      <Projects aria-label="Projects">
        {cards?.map((card) =>
          card.broken ? (
            <BrokenCard
              key={card.id}
              card={card}
              onExport={() => void rescue(card)}
              onDelete={() => void remove(card)}
            />
          ) : (
            <ProjectCard key={card.id} card={card} onDelete={() => void remove(card)} />
          ),
        )}
      </Projects>
      {cards && toTry.length > 0 && (
        <>
          <h2>To try, shot by the stand-in camera</h2>
          <Projects aria-label="Demo sets">
            {toTry.map(({ set, first, finished }) => (
              <Card key={set.id}>
                <Link href={benchAddress(first)} title={set.task}>
                  <div style={{ backgroundImage: `url(${set.finished?.picture ?? middleOf(set)})` }} />
                  <b>{set.title}</b>
                  <small>{first === demoProject(set.id) ? set.about : FINISHED}</small>
                </Link>
                {finished && (
                  <Link href={benchAddress(finished)} aria-label={`${set.title}: ${FINISHED}`}>
                    {FINISHED}
                  </Link>
                )}
              </Card>
            ))}
          </Projects>
        </>
      )}
    </Page>
  );
}

/** An address for the small picture of a card, as long as the card is there. */
function usePreview(preview: Uint8Array | undefined): CSSProperties | undefined {
  const address = useMemo(
    () => preview && URL.createObjectURL(new Blob([preview.slice()], { type: 'image/jpeg' })),
    [preview],
  );
  useEffect(() => () => void (address && URL.revokeObjectURL(address)), [address]);
  return address ? { backgroundImage: `url(${address})` } : undefined;
}

function ProjectCard({ card, onDelete }: { card: ShelfCard; onDelete: () => void }) {
  const { id, title, changed, preview } = card;
  const frames = `${card.frames} ${card.frames === 1 ? 'frame' : 'frames'}`;
  return (
    <Card>
      <Link href={benchAddress(id)}>
        <div style={usePreview(preview)} />
        <b>{title}</b>
        <small>
          {frames}, {format(parseISO(changed), 'd MMM yyyy HH:mm')}
        </small>
      </Link>
      <Button data-plain aria-label={`Take “${title}” off the shelf`} onPress={onDelete}>
        <Trash2 aria-hidden />
      </Button>
    </Card>
  );
}

function BrokenCard({
  card: { title, broken, preview },
  onExport,
  onDelete,
}: {
  card: ShelfCard;
  onExport: () => void;
  onDelete: () => void;
}) {
  return (
    <Card>
      <div style={usePreview(preview)} />
      <b>{title}</b>
      <p>{broken}</p>
      <Row>
        <Button onPress={onExport}>
          <Download aria-hidden /> Export what is there
        </Button>
      </Row>
      <Button data-plain aria-label={`Take “${title}” off the shelf`} onPress={onDelete}>
        <Trash2 aria-hidden />
      </Button>
    </Card>
  );
}

/** The frame of a set that shows it best. */
function middleOf({ frames }: OfferedSet): string {
  return frames[frames.length >> 1]?.url ?? '';
}
