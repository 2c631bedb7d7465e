/** A number for each stroke that was seen; a stroke is never changed once it is drawn. */
const numbers = new WeakMap<object, number>();
let last = 0;

function numberOf(stroke: object): number {
  const known = numbers.get(stroke) ?? ++last;
  numbers.set(stroke, known);
  return known;
}

/** Layers as the part of a key: the same for the same layers. Strokes, which may have thousands of points, are named by number. */
export function layersKey(layers: readonly object[]): string {
  return JSON.stringify(layers, (key, value: unknown) =>
    key === 'strokes' && Array.isArray(value) ? value.map((s: object) => numberOf(s)) : value,
  );
}
