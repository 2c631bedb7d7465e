/** In which part of the work an edit belongs; a list of edits is done in this order, within a rank as they were made. */
export const RANKS = ['repair', 'light', 'tone', 'colour', 'detail', 'finish'] as const;

export type Rank = (typeof RANKS)[number];
