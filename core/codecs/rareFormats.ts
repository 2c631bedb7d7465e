import { loadedPart } from '../proof/problem';

/** Readers and writers that bring large libraries and that few files need: each is loaded when the first such file comes. */
export const RARE_FORMATS = {
  readExr: () => loadedPart('the reader of OpenEXR', () => import('./read/readExr')),
  readHdr: () => loadedPart('the reader of Radiance HDR', () => import('./read/readHdr')),
  readInkJpeg: () => loadedPart('the reader of JPEG with inks', () => import('./read/readInkJpeg')),
  openProjectFile: () => loadedPart('the reader of project files', () => import('./openProjectFile')),
  readTiff: () => loadedPart('the reader of TIFF', () => import('./read/readTiff')),
  encodeExr: () => loadedPart('the writer of OpenEXR', () => import('./write/encodeExr')),
} as const;

/** Loads them all before there is need, so that they are there without a network too. */
export async function loadRareFormats(): Promise<void> {
  await Promise.all(Object.values(RARE_FORMATS).map((load) => load()));
}
