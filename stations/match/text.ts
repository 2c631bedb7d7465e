/** Words of the Match station. */
export const MATCH_TEXT = {
  name: 'Match',
  none: 'Nothing is matched yet. Sample what should be grey, or move a zone.',
  target: 'What is changed',
  targets: { set: 'The set', whole: 'The whole' },
  neutral: 'Neutral',
  sample: 'Sample what should be grey',
  sampling: 'Press the patch on the picture',
  drop: 'Keep its colour',
  neutralHint: 'A bluer patch warms the picture, a warmer one cools it.',
  before: 'before',
  after: 'after',
  zones: 'Zone ladder',
  zonesHint:
    'Tones in above, tones out below, in stops from middle grey. Pull a rung, or move it by arrow keys.',
  addZone: 'Add a zone',
  reset: 'All zones back',
  rungs: ['Black', 'Dark', 'Middle', 'Light', 'White point'],
  colour: 'Colour',
  saturation: 'Saturation',
} as const;
