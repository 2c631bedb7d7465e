import { type Layer } from '@/core/layers/layer';
import { type Frame, type Project } from '@/core/recipe/project';

/** The cut-out that a layer shows; undefined for any other layer. */
export function plateOf({ frames }: Pick<Project, 'frames'>, { source }: Layer): Frame | undefined {
  return source.kind === 'frame' ? frames.find((f) => f.id === source.frame && f.plate) : undefined;
}
