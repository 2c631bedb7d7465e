import { type ClippedShares } from '@/core/capture/clippedShares';
import { type SetKind } from '@/core/capture/setKind';
import { emptyImage } from '@/core/raster/encodedImage';
import { translation } from '@/core/raster/matrix3';
import { emptyProject, fitKey, type Frame, type Project } from '@/core/recipe/project';
import { referenceRegistration, type Registration } from '@/core/register/registration';
import { type DecodedFrame } from '@/engine/tasks';

const NOTHING: ClippedShares = { light: 0, dark: 0 };

/** A frame of 600 × 400 with a made-up hash. */
export function sampleFrame(id: string, stops: number, change: Partial<Frame> = {}): Frame {
  const hash = [...id.padEnd(4, '0')]
    .map((c) => c.charCodeAt(0).toString(16).padStart(2, '0'))
    .join('')
    .padEnd(64, '0');
  return {
    id,
    file: `${id}.jpg`,
    hash,
    bytes: 1000,
    width: 600,
    height: 400,
    depth: 8,
    facts: { seconds: 2 ** stops / 60, aperture: 8, iso: 100 },
    stops,
    stopsSource: 'exif',
    clipped: NOTHING,
    measures: {},
    used: true,
    ...change,
  };
}

/** A fit that shifts by (dx, dy). */
export function sampleFit(dx: number, dy: number, change: Partial<Registration> = {}): Registration {
  return {
    ...referenceRegistration(),
    matrix: translation(dx, dy),
    bound: 0.01,
    residual: { typical: 0.05, worst: 0.2 },
    tiles: [{ x: 300, y: 200, dx: 0.05, dy: 0, error: 0.01 }],
    ...change,
  };
}

/** Three frames of a bracket or another kind, fitted: dark, reference and light; the light one is off by (10, −6) pixels. */
export function sampleProject({ kind = 'bracket' }: { readonly kind?: SetKind } = {}): Project {
  const frames = [sampleFrame('dark', -2), sampleFrame('mid', 0), sampleFrame('light', 2)];
  const project = emptyProject('p1', 'Sample', '2026-10-03T12:00:00.000Z');
  const fits = Object.fromEntries([
    [fitKey(frames[1], frames[0], { motion: 'auto', kind }), sampleFit(-4, 3)],
    [fitKey(frames[1], frames[1], { motion: 'auto', kind }), referenceRegistration()],
    [fitKey(frames[1], frames[2], { motion: 'auto', kind }), sampleFit(10, -6)],
  ]);
  return { ...project, frames, set: { ...project.set, kind, reference: 'mid', why: 'because' }, fits };
}

/** The frames of a project as if they had been decoded: black. */
export function sampleDecoded(project = sampleProject()): Readonly<Record<string, DecodedFrame>> {
  const decoded = project.frames.map(({ hash, width, height, facts }): [string, DecodedFrame] => [
    hash,
    { levels: [emptyImage(width, height, 255)], facts, depth: 8, hash },
  ]);
  return Object.fromEntries(decoded);
}
