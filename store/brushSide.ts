import { findLayer } from '@/core/layers/layer';
import { type BenchState } from './benchState';
import { type RegionOwner } from './edits/regions';
import { type BrushAction } from './session';

/** A region by whose it is, as a name that stays. */
export const ownerName = (owner: RegionOwner): string => JSON.stringify(owner);

/** Whose region strokes go into: the one that was taken in hand, else that of the chosen layer. */
export function brushOwner({
  tool,
  drawing,
  session,
  history,
}: Pick<BenchState, 'tool' | 'drawing' | 'session' | 'history'>): RegionOwner | undefined {
  if (tool === 'brush') return drawing?.owner;
  const layer = findLayer(history.project.layers, session.layer);
  return session.station === 'layers' && !tool && layer?.shown
    ? { kind: 'layer', layer: layer.id }
    : undefined;
}

/** Which side the brush paints in a region: the one it had there last; a first stroke shows more, since a hole is no accident. */
export function brushSide(
  state: Pick<BenchState, 'tool' | 'drawing' | 'session' | 'history'>,
  owner: RegionOwner | undefined = brushOwner(state),
): BrushAction {
  return (owner && state.session.sides?.[ownerName(owner)]) ?? 'reveal';
}

/** The sides of a session with another one for a region. */
export const withSide = (
  { sides }: Pick<BenchState['session'], 'sides'>,
  owner: RegionOwner,
  side: BrushAction,
): NonNullable<BenchState['session']['sides']> => ({ ...sides, [ownerName(owner)]: side });
