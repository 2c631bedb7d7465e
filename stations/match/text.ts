/** Words of the Match station. */
export const MATCH_TEXT = {
  name: 'Match',
  none: 'Nothing is matched yet. Sample what should be grey, or move a zone.',
  target: 'What is changed',
  targets: { set: 'The set', whole: 'The whole' },
} as const;
