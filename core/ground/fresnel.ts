/**
 * Share of unpolarised light that a smooth surface throws back (Fresnel's equations; Hecht, *Optics*, section 4.6).
 * @param cosine of the angle to the upright
 * @param index of refraction against air: water 1.33
 */
export function fresnel(cosine: number, index = 1.33): number {
  const within = Math.sqrt(1 - (1 - cosine ** 2) / index ** 2);
  const across = (cosine - index * within) / (cosine + index * within);
  const along = (within - index * cosine) / (within + index * cosine);
  return (across ** 2 + along ** 2) / 2;
}
