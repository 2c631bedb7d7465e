/** A judged quantity: from `watch` on it deserves a look, from `fail` on it should be mended (below, where `fail` < `watch`). */
export interface Limit {
  readonly label: string;
  readonly unit: string;
  readonly watch: number;
  readonly fail: number;
  /** the sentence when all is well */
  readonly fine: string;
  /** the sentence when it is not: what it means and what to do */
  readonly advice: string;
  /** where the numbers come from */
  readonly source: string;
}

/** Every limit that Marsh judges by, in one place. */
export const LIMITS = {
  'frames.unreadable': {
    label: 'Files left out',
    unit: '',
    watch: 1,
    fail: 1e9,
    fine: 'Every file could be read.',
    advice: 'Some files could not be read; the others are here.',
    source: 'a count',
  },
  'frames.burnt': {
    label: 'Burnt in every frame',
    unit: '%',
    watch: 0.5,
    fail: 5,
    fine: 'The darkest frame holds the lights.',
    advice:
      'These lights are lost in the darkest frame too. Add a shorter exposure, or accept plain white there.',
    source: 'common practice: small lamps may clip, skies may not',
  },
  'frames.black': {
    label: 'Black in every frame',
    unit: '%',
    watch: 0.5,
    fail: 5,
    fine: 'The lightest frame opens the darks.',
    advice: 'These darks are empty in the lightest frame too. Add a longer exposure, or keep them dark.',
    source: 'common practice',
  },
  'frames.spacing': {
    label: 'Widest spacing',
    unit: 'EV',
    watch: 2.6,
    fail: 4.1,
    fine: 'Neighbouring frames share enough tones.',
    advice: 'Between two neighbours the exposure jumps so far that tones may break. Shoot 2 EV apart.',
    source: 'common practice: brackets are shot 2 EV apart, 3 at most',
  },
  'fit.leftOut': {
    label: 'Frames left out',
    unit: '',
    watch: 1,
    fail: 3,
    fine: 'Every frame was fitted.',
    advice: 'A frame could not be fitted and is left out of the merge. The tray says why.',
    source: 'a count',
  },
  'fit.typical': {
    label: 'Typical error',
    unit: 'px',
    watch: 0.3,
    fail: 1,
    fine: 'Edges fall on each other well within half a pixel.',
    advice:
      'Edges double slightly. Look at the residual; let the frames move more freely, or leave the frame out.',
    source: 'half a pixel is the smallest doubling seen at 1:1 (common practice); 0.3 keeps clear of it',
  },
  'fit.worst': {
    label: 'Worst place',
    unit: 'px',
    watch: 1,
    fail: 3,
    fine: 'No place is off by a pixel.',
    advice:
      'Something moved, or stands nearer than the rest. Look there; paint that place in from one frame under Layers.',
    source: 'a pixel of doubling shows at 1:1 (common practice)',
  },
  'fit.overlap': {
    label: 'Overlap kept',
    unit: '%',
    watch: 92,
    fail: 70,
    fine: 'Nearly all of the picture is seen by every frame.',
    advice: 'The frames were held far apart; the border that not every frame sees is best cropped away.',
    source: 'common practice: 5 to 8 % is lost to cropping by hand',
  },
  'fit.turn': {
    label: 'Turn, largest',
    unit: '°',
    watch: 1.5,
    fail: 8,
    fine: 'Steady for a handheld set.',
    advice: 'The camera was turned between frames; corners are covered by fewer frames.',
    source: 'handheld sets stay under a degree and a half (common practice)',
  },
  'fit.scale': {
    label: 'Scale change, largest',
    unit: '%',
    watch: 1,
    fail: 5,
    fine: 'Same magnification in every frame.',
    advice: 'The magnification changes between frames: focus or zoom moved, or the lens correction differs.',
    source: 'common practice: one preparation for the whole set',
  },
  'merge.burnt': {
    label: 'Plain white',
    unit: '%',
    watch: 0.5,
    fail: 3,
    fine: 'Lights keep their detail.',
    advice: 'Lights merge to plain white. See whether the darkest frame holds them.',
    source: 'common practice: small lamps may clip, skies may not',
  },
  'merge.black': {
    label: 'Plain black',
    unit: '%',
    watch: 0.5,
    fail: 5,
    fine: 'Darks keep their detail.',
    advice: 'Darks merge to plain black. See whether the lightest frame opens them.',
    source: 'common practice',
  },
  'merge.movers': {
    label: 'Things that moved',
    unit: '',
    watch: 40,
    fail: 1e9,
    fine: 'Nothing moved between the frames.',
    advice:
      'So many places move that the merge is a patchwork of single frames. Look at reeds and water at 1:1, or merge fewer frames.',
    source: 'a count; common practice: a mover comes from one frame, or it ghosts',
  },
  'merge.rim': {
    label: 'Step at frame borders',
    unit: 'code',
    watch: 1.5,
    fail: 4,
    fine: 'No frame border shows.',
    advice: 'A frame border may show as a faint line. Crop to what every frame covers.',
    source: 'one code value of 8 bits is the least visible step (common practice)',
  },
  'merge.leastShare': {
    label: 'Least used frame',
    unit: '%',
    watch: 1,
    fail: -1,
    fine: 'Every frame adds something.',
    advice: 'One frame adds almost nothing; the merge would be the same without it.',
    source: 'a share of the pixels',
  },
  'layers.doubling': {
    label: 'Worst fit painted in',
    unit: 'px',
    watch: 1,
    fail: 3,
    fine: 'What is painted in lies exactly on the merge.',
    advice:
      'A frame is painted in where it lies off the merge. Check that the brushed edge does not cut through an object.',
    source: 'a pixel of doubling shows at 1:1 (common practice)',
  },
  'finish.kept': {
    label: 'Picture kept',
    unit: '%',
    watch: 60,
    fail: 25,
    fine: 'The crop keeps most of the picture.',
    advice: 'The crop throws much of the picture away.',
    source: 'common practice: shoot wider than the crop',
  },
  'finish.uncovered': {
    label: 'Not seen by every frame',
    unit: '%',
    watch: 0.05,
    fail: 5,
    fine: 'Every frame covers the whole crop.',
    advice:
      'Part of the crop is seen by fewer frames: noise and tone may change there. Take the proposed crop.',
    source: 'measured from the fit',
  },
  'finish.burnt': {
    label: 'Plain white',
    unit: '%',
    watch: 0.5,
    fail: 3,
    fine: 'Lights keep their detail.',
    advice: 'Lights are plain white. Lower the exposure, or paint in a darker frame.',
    source: 'common practice: small lamps may clip, skies may not',
  },
  'finish.black': {
    label: 'Plain black',
    unit: '%',
    watch: 0.5,
    fail: 5,
    fine: 'Darks keep their detail.',
    advice: 'Darks are plain black. Raise the exposure, or paint in a lighter frame.',
    source: 'common practice',
  },
  'finish.size': {
    label: 'Size',
    unit: 'MP',
    watch: 1,
    fail: 0.1,
    fine: 'Large enough for a screen.',
    advice: 'Small: it fills less than a screen.',
    source: 'a screen of 1280 × 800 holds 1 MP',
  },
} as const satisfies Record<string, Limit>;

export type LimitId = keyof typeof LIMITS;
