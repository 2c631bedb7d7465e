/** Words of the Match station. */
export const MATCH_TEXT = {
  name: 'Match',
  none: 'Nothing is matched yet. Sample what should be grey, or move a zone.',
  target: 'What is changed',
  apart: { before: 'from what it was without the match', reference: 'from what it is made like' },
  targets: { set: 'The set', whole: 'The whole' },
} as const;
