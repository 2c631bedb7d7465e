/** Readers and writers that bring large libraries and that few files need: each is loaded when the first such file comes. */
export const RARE_FORMATS = {
  readExr: () => import('./read/readExr'),
  readHdr: () => import('./read/readHdr'),
  readInkJpeg: () => import('./read/readInkJpeg'),
  openProjectFile: () => import('./openProjectFile'),
  readTiff: () => import('./read/readTiff'),
  encodeExr: () => import('./write/encodeExr'),
} as const;

/** Loads them all before there is need, so that they are there without a network too. */
export async function loadRareFormats(): Promise<void> {
  await Promise.all(Object.values(RARE_FORMATS).map((load) => load()));
}
