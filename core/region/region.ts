import { type PartKindName, type PartSettings } from './partKinds';

/** How a part joins what stands before it: adds to it, takes away from it, or keeps only what lies in both. */
export const JOINS = ['add', 'remove', 'keep'] as const;

export type Join = (typeof JOINS)[number];

/** What a part of a region is, by its kind. */
export type Part = {
  readonly [K in PartKindName]: { readonly kind: K; readonly settings: PartSettings[K] };
}[PartKindName];

/** A part of a region, and how it joins those before it. */
export interface RegionPart {
  readonly how: Join;
  readonly part: Part;
  /** what lies outside of it counts */
  readonly turned: boolean;
  readonly on: boolean;
}

/**
 * Where: a sentence of parts, each added, taken away or kept to, in order; then smoothed, grown, feathered, led along edges, and at last turned inside
 * out. What begins with an added part begins with nothing, everything else with the whole. Lengths are fractions of the picture's long edge.
 */
export interface Region {
  readonly id: string;
  readonly name: string;
  readonly parts: readonly RegionPart[];
  /** specks and fringes narrower than this go; none where it is not said */
  readonly smooth?: number;
  /** by how much it is larger (or, negative, smaller) than its parts */
  readonly grow: number;
  /** radius of its softening */
  readonly feather: number;
  /** how far it is led to edges of the picture */
  readonly follow: number;
  readonly invert: boolean;
}

/** Everywhere. */
export const EVERYWHERE: Omit<Region, 'id' | 'name'> = {
  parts: [],
  grow: 0,
  feather: 0,
  follow: 0,
  invert: false,
};
