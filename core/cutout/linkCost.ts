/** Colours of a grid: CIE L*a*b*, three values a pixel. */
export interface LabGrid {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** Neighbours that a pixel is linked to, each pair once: steps and 1 over their length. */
export const LINKS: readonly (readonly [dx: number, dy: number, weight: number])[] = [
  [1, 0, 1],
  [0, 1, 1],
  [1, 1, Math.SQRT1_2],
  [-1, 1, Math.SQRT1_2],
];

/** part of a link that no difference of colour takes away: short edges are better than long ones */
const SMOOTH = 0.04;

/** Square of the difference of two pixels' colours. */
function difference2(data: Float32Array, i: number, j: number): number {
  const [l, a, b] = [
    data[3 * i] - data[3 * j],
    data[3 * i + 1] - data[3 * j + 1],
    data[3 * i + 2] - data[3 * j + 2],
  ];
  return l * l + a * a + b * b;
}

/** Contrast at which a link is worth e⁻½ of the whole: 1 / (2 · mean of squared differences of neighbours) (Boykov & Jolly 2001). */
export function contrastScale({ width, height, data }: LabGrid): number {
  let sum = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x + 1 < width; x++) sum += difference2(data, y * width + x, y * width + x + 1);
  const mean = sum / Math.max(1, height * (width - 1));
  return 1 / (2 * mean + 1e-6);
}

/** What it costs to part two neighbours. @param weight of the link, see LINKS */
export function linkCost({ data }: LabGrid, i: number, j: number, weight: number, scale: number): number {
  return weight * (Math.exp(-scale * difference2(data, i, j)) + SMOOTH);
}
