/** Luma or luminance of planes, whichever they hold (weights of ITU-R BT.709). */
export function luminance([R, G, B]: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(R.length);
  for (let i = 0; i < out.length; i++) out[i] = 0.2126 * R[i] + 0.7152 * G[i] + 0.0722 * B[i];
  return out;
}
