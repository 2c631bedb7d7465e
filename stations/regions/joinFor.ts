import { type PartKindName } from '@/core/region/partKinds';
import { type RegionPart } from '@/core/region/region';

const SHAPES: readonly PartKindName[] = ['strokes', 'thing', 'gradient', 'ellipse', 'polygon', 'named'];

/** How a new part joins: what comes first says where at all; what comes later keeps only a part of that, but for what is drawn. */
export const joinFor = (kind: PartKindName, first: boolean): RegionPart['how'] =>
  first || SHAPES.includes(kind) ? 'add' : 'keep';
