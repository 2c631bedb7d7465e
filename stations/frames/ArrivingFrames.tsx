'use client';
import { styled } from 'styled-components';
import { Thumbnail } from '@/ui/Thumbnail';
import { useBench } from '../benchContext';
import { FRAMES_TEXT as TEXT } from './text';

/** long edge of the picture that is shown while the others are read, pixels */
const SHOWN = 1000;

const Picture = styled.figure`
  position: absolute;
  inset: 14px;
  margin: 0;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 8px;
  color: #fff;
  font-size: 13px;
  canvas {
    flex: 1 1 0;
    min-height: 0;
    width: 100%;
    object-fit: contain;
  }
`;

/** The first file of a drop that was read, on the table of a project that has no frames yet. */
export function ArrivingPicture() {
  const first = useBench((s) => (s.history.project.frames.length === 0 ? s.arriving[0] : undefined));
  if (!first) return null;
  const image = first.levels.find((l) => Math.max(l.width, l.height) <= SHOWN) ?? first.levels[0];
  return (
    <Picture>
      <Thumbnail image={image} label={first.file} />
      <figcaption>{TEXT.arriving(first.file)}</figcaption>
    </Picture>
  );
}

const Strip = styled.ul`
  display: flex;
  gap: 10px;
  padding: 3px;
  overflow-x: auto;
  li {
    width: 116px;
    flex: none;
  }
  canvas {
    width: 100%;
    height: 56px;
    object-fit: cover;
    display: block;
  }
  small {
    display: block;
    padding-top: 2px;
    font-size: 11px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

/** Every file of a drop that was read so far, in the tray of a project that has no frames yet. */
export function ArrivingStrip() {
  const arriving = useBench((s) => s.arriving);
  const byName = [...arriving].sort((a, b) => a.file.localeCompare(b.file));
  return (
    <Strip aria-label={TEXT.arrived}>
      {byName.map(({ file, levels }) => (
        <li key={file}>
          <Thumbnail image={levels[levels.length - 1]} label={file} />
          <small>{file}</small>
        </li>
      ))}
    </Strip>
  );
}
