import { type PartKindName } from '@/core/region/partKinds';
import { type ToolInHand } from '@/store/benchState';

/** The tool that a new part waits for, where it means nothing without it. */
export function toolOfPart(kind: PartKindName): ToolInHand | undefined {
  if (kind === 'thing' || kind === 'parted') return 'this';
  return kind === 'same' ? 'same' : undefined;
}
