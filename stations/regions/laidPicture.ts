import { type CompiledPicture, type LaidPicture } from '@/core/graph/compiledPicture';
import { IDENTITY, invert, type Matrix3, normalise, transform } from '@/core/raster/matrix3';
import { type RegionOwner } from '@/store/edits/regions';

/** The layer that an owner belongs to, if any. */
const layerOf = (owner: RegionOwner): string | undefined =>
  owner.kind === 'layer'
    ? owner.layer
    : owner.kind === 'edit' && owner.at.kind === 'layer'
      ? owner.at.id
      : undefined;

/** The node that ranges of an owner's region are read from: an edit of a layer finds the layer's own picture, all else the merged set. */
export function readFrom(compiled: CompiledPicture, owner: RegionOwner): string {
  const layer = owner.kind === 'edit' ? layerOf(owner) : undefined;
  return compiled.layers.find((l) => l.id === layer)?.plain ?? compiled.base;
}

/** How the picture that an owner's things are cut out of lies on the table: that of its layer, else the merged set itself. */
export function laidPicture(compiled: CompiledPicture, owner: RegionOwner): LaidPicture {
  const layer = layerOf(owner);
  const { width, height } = compiled;
  return (layer === undefined ? undefined : compiled.laid.get(layer)) ?? { matrix: IDENTITY, width, height };
}

const longEdge = ({ width, height }: LaidPicture): number => Math.max(width, height);

/** A point of the table's picture, pixel edges, as fractions of the long edge of the picture that lies there. */
export function toLaid(laid: LaidPicture, x: number, y: number): readonly [number, number] {
  const [u, v] = transform(laid.matrix, x - 0.5, y - 0.5);
  return [(u + 0.5) / longEdge(laid), (v + 0.5) / longEdge(laid)];
}

/** The way back: a function of fractions, which gives pixel edges of the table's picture. */
export function fromLaid(laid: LaidPicture): (x: number, y: number) => readonly [number, number] {
  const back: Matrix3 = normalise(invert(laid.matrix));
  const long = longEdge(laid);
  return (x, y) => {
    const [u, v] = transform(back, x * long - 0.5, y * long - 0.5);
    return [u + 0.5, v + 0.5];
  };
}
