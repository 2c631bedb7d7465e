'use client';
import { format, parseISO } from 'date-fns';
import { Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import { styled } from 'styled-components';
import { problemSentence } from '@/core/proof/problem';
import {
  deleteProject,
  listProjects,
  loadProject,
  saveOriginal,
  saveProject,
  type StoredProject,
} from '@/store/database';
import { importProject } from '@/store/importProject';
import { demoProject, type OfferedSet, offeredSets } from '@/store/demoSets';
import { newProject } from '@/store/openProject';
import { Button } from '@/ui/controls/Button';
import { COLOUR, focusRing, FONT } from '@/ui/tokens';

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
  > button {
    position: absolute;
    right: 6px;
    bottom: 12px;
  }
`;

/** All projects of this browser. */
export function Shelf() {
  const [projects, setProjects] = useState<readonly StoredProject[]>();
  const [failure, setFailure] = useState('');
  const [offered, setOffered] = useState<readonly OfferedSet[]>([]);
  const router = useRouter();
  const refresh = (): Promise<void> =>
    listProjects().then(setProjects, (thrown: unknown) =>
      setFailure(problemSentence(thrown, 'Opening the shelf')),
    );
  useEffect(() => {
    listProjects().then(setProjects, (thrown: unknown) =>
      setFailure(problemSentence(thrown, 'Opening the shelf')),
    );
  }, []);
  useEffect(() => {
    // a server without demo frames has a shelf all the same
    offeredSets().then(setOffered, () => undefined);
  }, []);
  const unopened = offered.filter((s) => !projects?.some((p) => p.id === demoProject(s.id)));
  const open = async (file: File): Promise<void> => {
    try {
      const stored = await importProject(file.name, new Uint8Array(await file.arrayBuffer()), {
        has: async (id) => (await loadProject(id)) !== undefined,
        keep: saveOriginal,
        save: saveProject,
        newId: () => crypto.randomUUID(),
      });
      router.push(`/bench?project=${stored.id}`);
    } catch (thrown) {
      setFailure(problemSentence(thrown, `Opening “${file.name}”`));
    }
  };
  const start = async (): Promise<void> =>
    router.push(`/bench?project=${await newProject('Untitled picture')}`);
  return (
    <Page>
      <header>
        <h1>marsh</h1>
        <p>
          Fit, merge, layer and deliver brackets, focus sets, panoramas, moments and stacks, with every step
          measured.
        </p>
        <FileTrigger acceptedFileTypes={['.zip']} onSelect={(files) => files?.[0] && void open(files[0])}>
          <Button>Open a project file</Button>
        </FileTrigger>
        <Button data-main onPress={() => void start()}>
          New project
        </Button>
      </header>
      {failure && <p role="alert">{failure}</p>}
      <Projects aria-label="Projects">
        {projects?.map((stored) => (
          <ProjectCard
            key={stored.id}
            stored={stored}
            onDelete={() => void deleteProject(stored.id).then(refresh)}
          />
        ))}
      </Projects>
      {projects && unopened.length > 0 && (
        <>
          <h2>To try, shot by the stand-in camera</h2>
          <Projects aria-label="Demo sets">
            {unopened.map((set) => (
              <Card key={set.id}>
                <Link href={`/bench?project=${demoProject(set.id)}`} title={set.task}>
                  <div style={{ backgroundImage: `url(${middleOf(set)})` }} />
                  <b>{set.title}</b>
                  <small>{set.about}</small>
                </Link>
              </Card>
            ))}
          </Projects>
        </>
      )}
    </Page>
  );
}

function ProjectCard({ stored, onDelete }: { stored: StoredProject; onDelete: () => void }) {
  const { project, preview } = stored;
  const address = useMemo(
    () => preview && URL.createObjectURL(new Blob([preview.slice()], { type: 'image/jpeg' })),
    [preview],
  );
  useEffect(() => () => void (address && URL.revokeObjectURL(address)), [address]);
  const frames = `${project.frames.length} ${project.frames.length === 1 ? 'frame' : 'frames'}`;
  return (
    <Card>
      <Link href={`/bench?project=${stored.id}`}>
        <div style={address ? { backgroundImage: `url(${address})` } : undefined} />
        <b>{project.title}</b>
        <small>
          {frames}, {format(parseISO(stored.changed), 'd MMM yyyy HH:mm')}
        </small>
      </Link>
      <Button data-plain aria-label={`Take “${project.title}” off the shelf`} onPress={onDelete}>
        <Trash2 aria-hidden />
      </Button>
    </Card>
  );
}

/** The frame of a set that shows it best. */
function middleOf({ frames }: OfferedSet): string {
  return frames[frames.length >> 1]?.url ?? '';
}
