import { EDIT_KINDS } from '../edits/editKinds';
import { STAND_OPERATORS } from '../ground/standOperators';
import { PART_KINDS } from '../region/partKinds';
import { featherMask } from '../region/shape/featherMask';
import { followEdges } from '../region/shape/followEdges';
import { growMask } from '../region/shape/growMask';
import { joinParts, turnMask } from '../region/shape/joinParts';
import { smoothMask } from '../region/shape/smoothMask';
import { bendGrid } from './bend/bendGrid';
import { blendLayers } from './blend/blendLayers';
import { FILLS } from './fill/fills';
import { MADE_BEFOREHAND } from './madeBeforehand';
import { mixLight } from './mix/mixLight';
import { type Operator } from './operator';
import { samplePicture } from './sample/samplePicture';

const ALL: readonly Operator[] = [
  ...MADE_BEFOREHAND,
  samplePicture,
  bendGrid,
  blendLayers,
  mixLight,
  ...FILLS,
  ...STAND_OPERATORS,
  ...[joinParts, turnMask, growMask, smoothMask, featherMask, followEdges],
  ...Object.values(PART_KINDS).flatMap((kind) => kind.operators),
  ...Object.values(EDIT_KINDS).flatMap((kind) => kind.operators),
];

/** Every step that a graph may have, by kind. */
export const OPERATORS: ReadonlyMap<string, Operator> = new Map(ALL.map((op) => [op.kind, op]));

/** The version of a step's operator. @throws Error for a kind that is not there */
export function versionOf(kind: string): number {
  const op = OPERATORS.get(kind);
  if (!op) throw new Error(`there is no step “${kind}”`);
  return op.version;
}
