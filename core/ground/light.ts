/** A colour of light: linear R, G, B that a white matt surface shows. */
export type LightColour = readonly [number, number, number];

/**
 * Where light comes from. Azimuth: degrees clockwise seen from above, 0 ahead of the camera (behind the thing), 90 from the right;
 * elevation: degrees above the horizontal.
 */
export interface LightDirection {
  readonly azimuth: number;
  readonly elevation: number;
}

/** A light so far away that it falls the same way everywhere; its colour is that of a white matt surface that faces it. */
export interface Sun extends LightDirection {
  readonly colour: LightColour;
}

/** A light near by. */
export interface Lamp extends LightDirection {
  /** metres from the foot of the thing */
  readonly distance: number;
  /** of a white matt surface that faces it at one metre */
  readonly colour: LightColour;
}

/** All the light that something stands in. */
export interface LightRig {
  readonly sun?: Sun;
  /** of a white surface that lies flat under the open sky */
  readonly sky: LightColour;
  /** what the ground throws back, on a white surface that faces down */
  readonly bounce: LightColour;
  readonly lamps: readonly Lamp[];
}

/** Right, up and ahead of the camera, level with the ground. */
export type Direction = readonly [right: number, up: number, ahead: number];

/** The way to a light; to the precision of a float, since engines differ in the last bit of a sine. */
export function towards({ azimuth, elevation }: LightDirection): Direction {
  const [a, e] = [(azimuth * Math.PI) / 180, (elevation * Math.PI) / 180];
  const level = Math.fround(Math.cos(e));
  return [Math.fround(Math.sin(a)) * level, Math.fround(Math.sin(e)), Math.fround(Math.cos(a)) * level];
}

/** A light as it falls on a place: the way to it, and its colour there. */
export interface Source {
  readonly towards: Direction;
  readonly colour: LightColour;
  /** of a lamp: where it hangs, metres from the foot of the thing, and its colour at one metre */
  readonly lamp?: { readonly at: Direction; readonly colour: LightColour };
}

/** a lamp is never taken to be nearer, metres */
const NEAREST = 0.1;

const scaled = ([r, g, b]: LightColour, by: number): LightColour => [by * r, by * g, by * b];

/** Sun and lamps as they fall on the foot of the thing; lamps by the inverse square of their distance. */
export function sourcesOf({ sun, lamps }: LightRig): Source[] {
  return [
    ...(sun ? [{ towards: towards(sun), colour: sun.colour }] : []),
    ...lamps.map((lamp): Source => {
      const way = towards(lamp);
      const distance = Math.max(NEAREST, lamp.distance);
      return {
        towards: way,
        colour: scaled(lamp.colour, 1 / distance ** 2),
        lamp: {
          at: [distance * way[0], distance * way[1], distance * way[2]],
          colour: lamp.colour,
        },
      };
    }),
  ];
}

/** A light as it falls on a place beside the foot: a lamp's way and strength change from place to place. @param place metres from the foot */
export function sourceAt(source: Source, [x, y, z]: Direction): Source {
  const { lamp } = source;
  if (!lamp) return source;
  const way: Direction = [lamp.at[0] - x, lamp.at[1] - y, lamp.at[2] - z];
  const distance = Math.max(NEAREST, Math.sqrt(way[0] ** 2 + way[1] ** 2 + way[2] ** 2));
  return {
    lamp,
    towards: [way[0] / distance, way[1] / distance, way[2] / distance],
    colour: scaled(lamp.colour, 1 / distance ** 2),
  };
}
