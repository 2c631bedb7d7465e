import { PLAIN_MASK } from '@/core/mask/mask';
import { type Stroke } from '@/core/mask/stroke';
import { NO_ADJUST } from '@/core/match/adjust';
import { type Layer } from '@/core/layers/layer';
import { type MergedState } from './bench';
import { type Edit } from './edits';

/** rows of dabs that paint a part, each this share of the long edge apart */
const ROW = 0.022;
/** share of a place that a moment must have to be painted there */
const SHARE = 140;

/**
 * Lays the moments of a merge out as layers to paint on: each moment besides the reference becomes a hidden layer over the reference,
 * revealed by soft strokes where the merge took it.
 */
export const momentLayers =
  ({ scene }: MergedState): Edit =>
  (draft) => {
    const { width, height } = scene.levels[0];
    const longEdge = Math.max(width, height);
    const made = scene.frames.flatMap((id, f): Layer[] => {
      const frame = draft.frames.find((own) => own.id === id);
      if (!frame || id === draft.set.reference) return [];
      const strokes = strokesOver(scene.shares[f], width, height, longEdge);
      if (strokes.length === 0) return [];
      return [
        {
          id: `moment-${id}`,
          name: frame.file.replace(/\.[^.]+$/, ''),
          source: { kind: 'frame', frame: id },
          visible: true,
          opacity: 1,
          blend: 'normal',
          stops: 0,
          mask: { ...PLAIN_MASK, base: 'hidden', strokes },
          adjust: NO_ADJUST,
        },
      ];
    });
    const reference = draft.frames.find((f) => f.id === draft.set.reference);
    if (!reference || made.length === 0) return;
    const ground: Layer = {
      ...made[0],
      id: `moment-${reference.id}`,
      name: `${reference.file.replace(/\.[^.]+$/, '')}, ground`,
      source: { kind: 'frame', frame: reference.id },
      mask: { ...PLAIN_MASK, base: 'shown', strokes: [] },
    };
    const kept = draft.layers.filter((l) => !l.id.startsWith('moment-'));
    draft.layers = [...kept, ground, ...made] as typeof draft.layers;
  };

/** Strokes along rows wherever a moment makes the picture. */
function strokesOver(share: Uint8Array, width: number, height: number, longEdge: number): Stroke[] {
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  const step = Math.max(1, Math.round((ROW * longEdge) / 2));
  const strokes: Stroke[] = [];
  const paint = (x0: number, x1: number, y: number): void => {
    const at = (x: number): [number, number, number] => [(2 * x) / longEdge, (2 * y) / longEdge, 1];
    strokes.push({
      action: 'reveal',
      size: 2.4 * ROW,
      softness: 0.7,
      flow: 1,
      points: x1 > x0 ? [at(x0), at(x1)] : [at(x0)],
    });
  };
  for (let y = step >> 1; y < h; y += step) {
    let from = -1;
    for (let x = 0; x <= w; x += 2) {
      const inside = x < w && share[y * w + x] > SHARE;
      if (inside && from < 0) from = x;
      if (!inside && from >= 0) {
        if (x - from > step / 2) paint(from + step / 3, Math.max(from + step / 3, x - step / 3), y);
        from = -1;
      }
    }
  }
  return strokes;
}
