'use client';
import { FolderPlus, ImagePlus } from 'lucide-react';
import { type ReactNode } from 'react';
import { DropZone, FileTrigger } from 'react-aria-components';
import { styled } from 'styled-components';
import { useBench } from '@/stations/benchContext';
import { FRAMES_TEXT } from '@/stations/frames/text';
import { TrayAction } from '@/stations/tray/TrayAction';
import { TrayActions } from '@/stations/tray/trayActions';
import { Button } from '@/ui/controls/Button';
import { Row } from '@/ui/Section';
import { COLOUR } from '@/ui/tokens';
import { droppedFiles } from './droppedFiles';
import { StandInCamera } from './StandInCamera';
import { useAddFiles } from './useAddFiles';

const READABLE_ENDINGS = [
  ...['.jpg', '.jpeg', '.png', '.tif', '.tiff', '.webp', '.avif', '.jxl', '.exr', '.hdr', '.zip'],
  ...['.dng', '.nef', '.cr2', '.cr3', '.arw', '.raf', '.orf', '.rw2', '.pef', '.srw', '.3fr', '.iiq'],
];

const Zone = styled(DropZone)`
  height: 100dvh;
  position: relative;
  &[data-drop-target]::after {
    content: 'Drop to add to this project';
    position: absolute;
    inset: 12px;
    display: grid;
    place-items: center;
    font-size: 20px;
    font-weight: 600;
    background: color-mix(in srgb, ${COLOUR.panel} 90%, transparent);
    border: 3px solid ${COLOUR.act};
    z-index: 5;
  }
`;

const Invitation = styled.div`
  position: absolute;
  left: 208px;
  right: 312px;
  top: 42%;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 14px;
  pointer-events: none;
  color: #fff;
  font-size: 16px;
  button {
    pointer-events: auto;
  }
`;

/** The whole bench takes dropped files; an empty one invites, and the frames' tray keeps buttons for more. */
export function DropArea({ children }: { children: ReactNode }) {
  const add = useAddFiles();
  const { empty, busy } = useBench((s) => ({
    empty: s.history.project.frames.length === 0,
    busy: s.work !== undefined,
  }));
  const chooser = (main: boolean) => (
    <Row>
      <FileTrigger
        allowsMultiple
        acceptedFileTypes={READABLE_ENDINGS}
        onSelect={(files) => files && void add(Array.from(files))}
      >
        <Button data-main={main ? '' : undefined}>
          <TrayAction icon={ImagePlus}>{FRAMES_TEXT.add}</TrayAction>
        </Button>
      </FileTrigger>
      <FileTrigger acceptDirectory onSelect={(files) => files && void add(Array.from(files))}>
        <Button>
          <TrayAction icon={FolderPlus}>{FRAMES_TEXT.addFolder}</TrayAction>
        </Button>
      </FileTrigger>
      <StandInCamera />
    </Row>
  );
  return (
    <Zone aria-label="Bench" onDrop={(event) => void droppedFiles(event.items).then(add)}>
      <TrayActions value={chooser(false)}>{children}</TrayActions>
      {empty && !busy && (
        <Invitation>
          <p>{FRAMES_TEXT.none}</p>
          {chooser(true)}
        </Invitation>
      )}
    </Zone>
  );
}
