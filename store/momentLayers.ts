import { type Layer, PLAIN_LAYER } from '@/core/layers/layer';
import { type Stroke } from '@/core/mask/stroke';
import { EVERYWHERE, type Region } from '@/core/region/region';
import { type MergedState } from './benchState';
import { type Change, setOf } from './edits/drafts';

/** rows of dabs that paint a part, each this share of the long edge apart */
const ROW = 0.022;
/** share of a place that a moment must have to be painted there */
const SHARE = 140;

/** shares of the long edge over which a joint fades in even places, and by which it is led to edges there are */
const [FADE, FOLLOW] = [0.03, 0.01];

/** Where a moment is shown: where strokes reveal it. */
const revealed = (id: string, strokes: readonly Stroke[]): Region => ({
  ...EVERYWHERE,
  id: `${id}-where`,
  name: '',
  feather: FADE,
  follow: FOLLOW,
  parts: [{ how: 'add', part: { kind: 'strokes', settings: { strokes } }, turned: false, on: true }],
});

/**
 * Lays the moments of a merge out as layers to paint on: each moment besides the reference becomes a hidden layer over the reference,
 * revealed by soft strokes where the merge took it.
 */
export const momentLayers =
  (set: string, { scene }: MergedState): Change =>
  (draft) => {
    const reference = setOf(draft, set)?.reference;
    const { width, height } = scene.levels[0];
    const longEdge = Math.max(width, height);
    const layerOf = (frame: string, name: string, where?: Region): Layer => ({
      ...PLAIN_LAYER,
      id: `moment-${frame}`,
      name,
      kind: 'picture',
      source: { kind: 'frame', frame },
      ...(where ? { where } : {}),
    });
    const nameOf = (id: string): string | undefined =>
      draft.frames.find((f) => f.id === id)?.file.replace(/\.[^.]+$/, '');
    const made = scene.frames.flatMap((id, f): Layer[] => {
      const name = nameOf(id);
      if (name === undefined || id === reference) return [];
      const strokes = strokesOver(scene.shares[f], width, height, longEdge);
      return strokes.length === 0 ? [] : [layerOf(id, name, revealed(`moment-${id}`, strokes))];
    });
    const ground = reference === undefined ? undefined : nameOf(reference);
    if (reference === undefined || ground === undefined || made.length === 0) return;
    const kept = draft.layers.filter((l) => !l.id.startsWith('moment-'));
    draft.layers = [...kept, layerOf(reference, `${ground}, ground`), ...made] as typeof draft.layers;
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
