/** Words of the Merge station. */
export const MERGE_TEXT = {
  name: 'Merge',
  none: 'Nothing is merged yet. Merging starts by itself when the frames are fitted.',
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
  tray: 'Frames by exposure',
  mover: 'Take this place from',
  blend: 'All frames, blended',
} as const;
