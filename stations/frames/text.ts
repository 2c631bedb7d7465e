/** Words of the Frames station. */
export const FRAMES_TEXT = {
  name: 'Frames',
  none: 'Drop the shots of one picture on the table, or choose them.',
  good: 'What makes a good set',
  // common practice
  goodPoints: [
    'Two to nine exposures of one view, about 2 EV apart; camera raw, TIFF, PNG, JPEG, WebP, AVIF, OpenEXR or Radiance.',
    'The same size, lens correction, white balance and crop on every frame.',
    'Focus and aperture locked; handheld is fine, a walker too.',
    'Framed a little wider than the picture you want: fitting costs the border.',
  ],
  add: 'Choose files',
  addFolder: 'Choose a folder',
  prepare: 'Prepared alike',
  even: 'Even out the white balance',
  byPixels: 'Take exposures from the pixels',
  prepareHint: 'What is set here holds for every frame: none can drift from the others.',
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
