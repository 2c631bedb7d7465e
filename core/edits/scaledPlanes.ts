/** Planes times a factor for each pixel, all channels alike. */
export const scaledPlanes = (planes: readonly Float32Array[], factor: Float32Array): Float32Array[] =>
  planes.map((plane) => {
    const out = new Float32Array(plane.length);
    for (let i = 0; i < out.length; i++) out[i] = plane[i] * factor[i];
    return out;
  });
