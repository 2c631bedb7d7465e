/** File formats that Marsh reads. */
export type FileKind = 'jpeg' | 'png' | 'tiff' | 'webp' | 'avif' | 'jxl' | 'exr' | 'hdr' | 'raw';

/** What a file may begin with; `at` is where, in bytes. */
const SIGNATURES: readonly { readonly kind: FileKind; readonly at: number; readonly text: string }[] = [
  { kind: 'jpeg', at: 0, text: '\xff\xd8\xff' },
  { kind: 'png', at: 0, text: '\x89PNG\r\n\x1a\n' },
  { kind: 'webp', at: 8, text: 'WEBPVP8' },
  { kind: 'avif', at: 4, text: 'ftypavif' },
  { kind: 'avif', at: 4, text: 'ftypavis' },
  { kind: 'jxl', at: 0, text: '\xff\x0a' },
  { kind: 'jxl', at: 4, text: 'JXL \r\n\x87\n' },
  { kind: 'exr', at: 0, text: '\x76\x2f\x31\x01' },
  { kind: 'hdr', at: 0, text: '#?RADIANCE' },
  { kind: 'hdr', at: 0, text: '#?RGBE' },
  { kind: 'raw', at: 0, text: 'FUJIFILMCCD-RAW' },
  { kind: 'raw', at: 0, text: 'IIRO' },
  { kind: 'raw', at: 0, text: 'IIU\0' },
  { kind: 'raw', at: 4, text: 'ftypcrx' },
  { kind: 'raw', at: 8, text: 'CR\x02' },
  { kind: 'tiff', at: 0, text: 'II*\0' },
  { kind: 'tiff', at: 0, text: 'MM\0*' },
];

/** Endings of camera raw files that are TIFF inside. */
const RAW_ENDING = /\.(dng|nef|nrw|arw|srf|sr2|pef|rw2|orf|3fr|iiq|erf|mef|mos|kdc|dcr|srw|raw)$/i;

/** What a file is by its first bytes; only for raw files that look like TIFF the name decides. Undefined for anything else. */
export function fileKind(file: string, bytes: Uint8Array): FileKind | undefined {
  const head = String.fromCharCode(...bytes.subarray(0, 24));
  const kind = SIGNATURES.find(({ at, text }) => head.startsWith(text, at))?.kind;
  return kind === 'tiff' && RAW_ENDING.test(file) ? 'raw' : kind;
}
