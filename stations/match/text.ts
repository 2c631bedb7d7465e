interface Odd {
  readonly frame: { readonly file: string };
  readonly stops: number;
  readonly evened: number;
  readonly matched: number;
}

const brighter = (stops: number): string =>
  `${Math.abs(stops).toFixed(2)} EV ${stops < 0 ? 'darker' : 'brighter'}`;

/** Words of the Match station. */
export const MATCH_TEXT = {
  name: 'Match',
  none: 'Nothing is matched yet. Sample what should be grey, or move a zone.',
  target: 'What is changed',
  apart: { before: 'from what it was without the match', reference: 'from what it is made like' },
  neighbours: {
    title: 'Frames beside each other',
    measuring: 'Comparing what the frames show alike …',
    apart: 'No two of the frames show enough alike to be compared.',
    frame: 'ΔE where others show the same',
    off: 'as it is',
    evened: 'evened out',
    change: 'Change',
    rest: (count: number) =>
      `${count} ${count === 1 ? 'frame' : 'frames'} like ${count === 1 ? 'its' : 'their'} neighbours`,
    make: 'Make alike',
    leave: 'As shot',
    made: (file: string) => `${file} made like its neighbours`,
    left: (file: string) => `${file} left as shot`,
    alike: 'None is off by more than a gain for each channel evens out.',
    odd: ({ frame, stops, evened, matched }: Odd) =>
      `${frame.file} is ${brighter(stops)} than what others show there; evening out leaves ${evened.toFixed(1)} ΔE, a change of its own ${matched.toFixed(1)}.`,
  },
  targets: { set: 'The set', whole: 'The whole' },
} as const;
