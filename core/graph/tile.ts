import { type EncodedImage } from '../raster/encodedImage';
import { type Rectangle } from '../raster/raster';
import { type Kernel } from '../raster/warp';

/** Where to evaluate: a rectangle of a grid that was halved so often. */
export interface At {
  /** halvings from full size */
  readonly level: number;
  /** in pixels of that level; may reach beyond the picture, whose border is continued there */
  readonly area: Rectangle;
  readonly kernel: Kernel;
}

/**
 * Colours on a rectangle, unbounded. They are straight, not multiplied by their opacity: every change and every blend mode asks for straight
 * ones, and what resamples them multiplies for itself.
 */
export interface LightTile {
  readonly is: 'light';
  /** R, G, B */
  readonly planes: readonly Float32Array[];
  /** opacity 0…1; absent where all of it is opaque */
  readonly alpha?: Float32Array;
  /** sRGB-encoded (continued as an odd function beyond 0…1), or linear light */
  readonly encoded: boolean;
}

/** How much of something is there, 0…1. */
export interface MaskTile {
  readonly is: 'mask';
  readonly plane: Float32Array;
}

/** A picture that was made beforehand: levels from full size down. */
export interface Picture {
  readonly is: 'picture';
  readonly levels: readonly EncodedImage[];
}

/** A map over a picture that was made beforehand, `cell` full-size pixels a cell: how far away things are. */
export interface FieldMap {
  readonly is: 'field';
  readonly width: number;
  readonly height: number;
  readonly cell: number;
  readonly values: Float32Array;
}

/** Something measured beforehand. */
export interface Fact {
  readonly is: 'fact';
  readonly value: unknown;
}

/** What a node gives. */
export type Value = LightTile | MaskTile | Picture | FieldMap | Fact;
