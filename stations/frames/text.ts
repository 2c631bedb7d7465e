/** Words of the Frames station. */
export const FRAMES_TEXT = {
  name: 'Frames',
  none: 'Drop the shots of one picture on the table, or choose them.',
  add: 'Choose files',
  set: 'This set',
  shot: 'As shot',
  use: 'Use in fit and merge',
  makeReference: 'Fit the others to this frame',
  isReference: 'The others are fitted to this frame.',
  remove: 'Take out of the project',
  measured: 'Exposure measured from pixels that neither neighbour clips; the files do not state it.',
  exif: 'Exposure from the camera’s own data.',
  tray: 'Frames by exposure',
} as const;
