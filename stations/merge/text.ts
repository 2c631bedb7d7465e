/** Words of the Merge station. */
export const MERGE_TEXT = {
  name: 'Merge',
  none: 'Nothing is merged yet. Merging starts by itself when the frames are fitted.',
  how: 'What makes a pixel good',
  contrast: 'Fine detail',
  saturation: 'Colour',
  exposedness: 'Middle tones',
  hint: 'Every frame is weighed in every pixel by these three, then blended coarse to fine (exposure fusion).',
  chart: 'Who made the picture',
  tray: 'Frames by exposure',
  mover: 'Take this place from',
  blend: 'All frames, blended',
} as const;
