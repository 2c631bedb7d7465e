/** What a set of frames is for; how it is fitted and merged follows from it. */
export type SetKind = 'bracket' | 'developments' | 'focus' | 'panorama' | 'moments' | 'swap' | 'stack';

export const SET_KINDS = [
  'bracket',
  'developments',
  'focus',
  'panorama',
  'moments',
  'swap',
  'stack',
] as const satisfies readonly SetKind[];

/** How each kind is called in a sentence. */
export const KIND_NAMES: Readonly<Record<SetKind, string>> = {
  bracket: 'bracket',
  developments: 'pair of developments',
  focus: 'focus set',
  panorama: 'panorama',
  moments: 'set of moments',
  swap: 'swap',
  stack: 'stack',
};
