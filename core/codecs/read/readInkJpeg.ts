import { getDecoder } from 'geotiff';

/** compression number of JPEG in a TIFF file, by which the library knows its decoder */
const JPEG = 7;

/** What the decoder's type lets out of its answer. */
type InkDecoder = {
  readonly decodeBlock: (bytes: ArrayBufferLike) => ArrayBufferLike | Promise<ArrayBufferLike>;
};

/**
 * The inks of a JPEG of four components, C M Y K, 255 for full ink.
 * @param twisted the first three are stored as luminance and two differences (the transform 2 of the APP14 segment)
 */
export async function readInkJpeg(bytes: Uint8Array, twisted: boolean): Promise<Uint8Array> {
  const decoder = (await getDecoder(JPEG, {} as never)) as unknown as InkDecoder;
  const data = new Uint8Array(await decoder.decodeBlock(bytes.slice().buffer));
  if (twisted) untwist(data);
  // in practice the files hold what the inks leave of the light
  for (let i = 0; i < data.length; i++) data[i] = 255 - data[i];
  return data;
}

/** Luminance and differences to three inks in place: the colours of ITU-T T.871, section 7, turned over; the fourth stays. */
function untwist(data: Uint8Array): void {
  const ink = (v: number): number => 255 - Math.min(255, Math.max(0, Math.round(v)));
  for (let i = 0; i < data.length; i += 4) {
    const [y, cb, cr] = [data[i], data[i + 1] - 128, data[i + 2] - 128];
    data[i] = ink(y + 1.402 * cr);
    data[i + 1] = ink(y - 0.344136 * cb - 0.714136 * cr);
    data[i + 2] = ink(y + 1.772 * cb);
  }
}
