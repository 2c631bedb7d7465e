/** Words of the Fit station. */
export const FIT_TEXT = {
  name: 'Fit',
  none: 'Nothing is fitted yet. Fitting starts by itself as soon as there are frames.',
  move: 'How the frames may move',
  held: 'Held still',
  draw: 'Draw the part that must fit',
  drawing: 'Draw a rectangle on the picture',
  whole: 'Hold the whole picture',
  heldRegion: 'Only the marked part is fitted; the rest may drift.',
  heldWhole: 'The whole picture is fitted.',
  chart: 'Left after the fit',
  compared: 'Compared with the reference',
  gain: 'Amplified',
  free: 'Let them move as needed',
  leaveOut: 'Work without it',
  tray: 'Frames by exposure',
  motions: { auto: 'As needed', shift: 'Shift', similarity: 'Turn + scale', perspective: 'Perspective' },
} as const;
