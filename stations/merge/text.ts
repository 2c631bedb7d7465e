/** Words of the Merge station. */
export const MERGE_TEXT = {
  name: 'Merge',
  inView: 'merged into its view',
  oneFrame: 'one frame, as it is',
  oneFrameHint: 'One frame is taken as it is: there is nothing to merge.',
  none: 'Nothing is merged yet. Merging starts by itself when the frames are fitted.',
  working: 'In the making. Until it is done the table shows the picture as it was.',
  method: 'Merged by',
  methods: { fusion: 'Exposure fusion', radiance: 'Radiance' },
  beside: 'Show both beside each other',
  radianceHint:
    'Light is added up from all frames by how little noise each has, then its range is pressed into the picture, large areas first, so that detail stays.',
  tone: 'Range',
  strength: 'Pressed by',
  detail: 'Local contrast',
  recovered: 'Recover the response from the set',
  how: 'What makes a pixel good',
  contrast: 'Fine detail',
  saturation: 'Colour',
  exposedness: 'Middle tones',
  hint: 'Every frame is weighed in every pixel by three measures, then blended coarse to fine.',
  chart: 'Who made the picture',
  tray: 'Frames',
  mover: 'Take this place from',
  blend: 'All frames, blended',
} as const;

/** Words for taking places from one frame. */
export const SEAM_TEXT = {
  title: 'This place from one frame',
  hint: 'Choose a frame, then point at what it shows best: a thing comes whole, cut where the frames agree.',
  inHand: (name: string) =>
    `Point at what is to come from ${name.toLowerCase()}, or at what it does not have and is to go. A short line will do.`,
  pointed: 'A place from one frame',
  command: (name: string) => `Take a place from ${name.toLowerCase()}`,
  drop: (number: number, name: string) => `Leave out point ${number}, from ${name.toLowerCase()}`,
  away: 'A frame that is away',
  tooMany: 'There are as many points as a set can have. Leave one out first.',
} as const;

/** Words of the merges of other sets. */
export const OTHER_TEXT = {
  how: 'How it is merged',
  hints: {
    swap: 'The marked part comes from the other frame, joined where both agree. Mark it under Fit; without a mark the place that differs most is taken. Points above take the place of both.',
    developments:
      'Both developments are weighed in every pixel, so that each thing comes from the version that holds it.',
  },
  school: 'Sharpness is taken',
  schools: { auto: 'As suits the set', depth: 'By one even depth', pyramid: 'By size of detail' },
  suiting: 'Take what suits the set',
  focusHint:
    'By one even depth: each place from the frame that shows it sharpest, decided along the edges of the picture. By size of detail: coarse and fine each from the frame that shows most of it. Depth shows which frame is sharp where.',
  views: 'Brackets of the views',
  viewsMerged: 'Merge each view first',
  viewsApart: 'Join all frames as they are',
  viewsHint:
    'Several exposures were taken in each direction. Merged first, a view shows light and shadow at once, and seams join merged views only.',
  projection: 'Laid out flat',
  laidOut: 'Projection',
  recommended: 'Take the recommended one',
  projections: {
    rectilinear: 'Flat',
    cylindrical: 'Cylinder',
    equirectangular: 'Longitude and latitude',
    panini: 'Panini',
  },
  projectionHint: 'Stretch is how much larger things at the edge are drawn than in the middle.',
  border: 'Blank border',
  borders: { crop: 'Cropped', warp: 'Bent to a rectangle' },
  borderMeasured: 'being measured',
  borderKeeps: (share: number) => `keeps ${share}\u00a0%`,
  borderBends: (stretch: number, bow: number) =>
    `stretches up to ${stretch}\u00a0%, lines bow by ${bow < 0.1 ? 'under 0.1' : bow.toFixed(1)}\u00a0px`,
  borderHint:
    'Cropped: the largest rectangle of the ratio set under Finish; what is faint goes. Bent: the border is drawn to a rectangle where there is least to see, straight edges are kept straight, and a narrow rest is cropped.',
  stack: 'How samples become one',
  samples: 'Samples',
  methods: {
    clip: 'Mean without strays',
    mean: 'Mean of all',
    median: 'Median',
    max: 'Lightest',
    min: 'Darkest',
  },
  background: 'Sky gradient',
  backgrounds: { keep: 'Left as it is', subtract: 'Taken away', divide: 'Divided out' },
  form: 'Followed by',
  forms: { curve: 'One smooth curve', mesh: 'A mesh of samples' },
  stackHint:
    'Without strays: what lies beyond 2.5 deviations of the others, a satellite or a walker, does not count. Lightest draws star trails.',
  moments: 'Best moment of each part',
  wanted: 'Looked for',
  tastes: {
    evening: 'Well lit, calm',
    calm: 'Nothing passing',
    smooth: 'Smooth water',
    lively: 'Lively water',
    sharp: 'Sharpest',
  },
  better: {
    lit: 'better lit',
    sharp: 'sharper',
    unclipped: 'less clipped',
    calm: 'calmer',
    smooth: 'smoother',
    lively: 'livelier',
  },
  asLayers: 'Lay them out as layers to paint on',
  momentsHint: 'A moment takes over only where it is clearly better than the reference.',
} as const;
