import { type PartKindName } from '@/core/region/partKinds';
import { type RegionPart } from '@/core/region/region';

const SHAPES: readonly PartKindName[] = ['strokes', 'thing', 'gradient', 'ellipse', 'polygon', 'named'];

/** Whether a part says nowhere so far: the brush that waits where all was hidden. */
const isNowhere = ({ how, part }: RegionPart): boolean =>
  how === 'add' && part.kind === 'strokes' && part.settings.strokes.length === 0;

/** How a new part joins: what comes first says where at all; what comes later keeps only a part of that, but for what is drawn. */
export const joinFor = (kind: PartKindName, before: readonly RegionPart[]): RegionPart['how'] =>
  before.every(isNowhere) || SHAPES.includes(kind) ? 'add' : 'keep';
