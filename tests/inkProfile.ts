/** Lab of full paper and what each ink, C M Y K, takes from it or adds: the made-up press of {@link inkProfile}. */
export const PRESS = {
  paper: [98, 0, 0],
  inks: [
    [-22, -30, -32],
    [-18, 42, -6],
    [-4, -6, 52],
    [-50, 0, 0],
  ],
} as const;

/** Lab of inks 0…1 on that press: it adds up, so that no way of interpolating matters. */
export function inkLab(inks: readonly number[]): [number, number, number] {
  const at = (k: 0 | 1 | 2): number =>
    inks.reduce((sum, ink, i) => sum + ink * PRESS.inks[i][k], PRESS.paper[k]);
  return [at(0), at(1), at(2)];
}

/** An ICC output profile for four inks with a lut8Type table of two steps (ICC.1:2001-04, 6.5.8). */
export function inkProfile(): Uint8Array {
  const bytes = new Uint8Array(144 + 48 + 4 * 256 + 48 + 3 * 256);
  const view = new DataView(bytes.buffer);
  const text = (at: number, s: string): void => [...s].forEach((c, i) => (bytes[at + i] = c.charCodeAt(0)));
  view.setUint32(0, bytes.length);
  view.setUint32(8, 0x02400000);
  text(12, 'prtrCMYKLab ');
  text(36, 'acsp');
  [0.9642, 1, 0.8249].forEach((v, i) => view.setInt32(68 + 4 * i, Math.round(v * 65536)));
  view.setUint32(128, 1);
  text(132, 'A2B0');
  view.setUint32(136, 144);
  view.setUint32(140, bytes.length - 144);
  text(144, 'mft1');
  bytes.set([4, 3, 2], 152);
  [0, 4, 8].forEach((i) => view.setInt32(156 + 4 * i, 65536));
  let at = 192;
  for (let table = 0; table < 4; table++) for (let i = 0; i < 256; i++) bytes[at++] = i;
  for (let corner = 0; corner < 16; corner++) {
    const [L, a, b] = inkLab([8, 4, 2, 1].map((bit) => (corner & bit ? 1 : 0)));
    for (const v of [L * 2.55, a + 128, b + 128]) bytes[at++] = Math.round(Math.min(255, Math.max(0, v)));
  }
  for (let table = 0; table < 3; table++) for (let i = 0; i < 256; i++) bytes[at++] = i;
  return bytes;
}
