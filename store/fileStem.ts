/** A file name made of a title: letters and digits, joined by hyphens. */
export function fileStem(title: string): string {
  const stem = title
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase();
  return stem.slice(0, 60) || 'picture';
}
