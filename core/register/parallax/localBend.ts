import { type Rectangle } from '../../raster/raster';

/** How a frame is bent so that near and far lie on the reference at once: displacements at the vertices of an even mesh over the frame. */
export interface LocalBend {
  /** vertices in a row and in a column; the first lies on the first pixel's centre */
  readonly columns: number;
  readonly rows: number;
  /** pixels of the frame between vertices */
  readonly cell: number;
  /** [2 · vertex] pixels: what the bent frame shows at p is seen in the frame at p + shift */
  readonly shifts: readonly number[];
  /** the part of the frame, pixels, that the bend draws from within the frame */
  readonly inside: Rectangle;
  /** share of vertices whose shift the picture itself tells, 0…1 */
  readonly told: number;
  /** vertices about which nothing is sure: something is hidden in one of the two, or they differ even when bent */
  readonly unsure: readonly number[];
  /** length of the shifts where they are sure, pixels: root mean square, and the 95th percentile */
  readonly bends: { readonly typical: number; readonly most: number };
  /** what still is off where it is sure, pixels: root mean square of the better nine tenths, and the 95th percentile */
  readonly residual: { readonly typical: number; readonly worst: number };
  /** correlation of structure with the reference before and after, 0…1 */
  readonly agreement: { readonly before: number; readonly after: number };
}

/** How much of the frame a bend is unsure about, 0…1. */
export const unsureShare = ({ unsure, columns, rows }: LocalBend): number => unsure.length / (columns * rows);

/** structure that was laid on its like agrees by this much: by 0.92 and more where something was to be found, by 0.73 at most where not */
const LEAST_AGREEMENT = 0.85;
const LEAST_TOLD = 0.15;
const MOST_UNSURE = 0.3;

/** a bend that fewer vertices tell is made of what lies between them */
const LEAST_TOLD_OF_A_PLANE = 0.03;

/** Whether a bend improves on the plane that it starts from. */
export const isBetter = ({ told, agreement: { before, after } }: LocalBend): boolean =>
  told >= LEAST_TOLD_OF_A_PLANE && after > before;

/** Whether a bend shows by itself that both frames show the same, also where no plane does. */
export const isConvincing = (bend: LocalBend): boolean =>
  bend.agreement.after >= LEAST_AGREEMENT && bend.told >= LEAST_TOLD && unsureShare(bend) <= MOST_UNSURE;
