import { MASK_FORMS } from '@/core/view/showMask';
import { LOOK_NAMES, MASK_FORM_NAMES } from '@/stations/looks';
import { type BenchActions } from '@/store/benchState';
import { setGeometry } from '@/store/edits/geometry';
import { setMotion } from '@/store/edits/sets';
import { type Look, type Station, STATIONS } from '@/store/session';
import { setSurround } from '@/ui/surround';
import { type Command } from './CommandFinder';
import { STATION_NAMES } from './Trail';

/** What the commands of the bench set in motion. */
export interface CommandParts {
  readonly actions: BenchActions;
  /** what the table can show now */
  readonly looks: readonly Look[];
  /** id of the set that is worked on */
  readonly set: string;
  readonly goTo: (station: Station) => void;
  readonly nextLook: () => void;
  readonly toggleZoom: () => void;
  readonly toggleTrace: () => void;
  /** switches the open edit off and on */
  readonly toggleEdit: () => void;
  /** takes half as much of it */
  readonly halveEdit: () => void;
  /** shows greys only, and colours again */
  readonly toggleGreys: () => void;
  readonly toShelf: () => void;
}

/** Every command that can be found by its name, with its key where it has one. */
export function benchCommands(parts: CommandParts): Command[] {
  const { actions, looks, set, goTo, nextLook, toggleZoom, toggleTrace, toShelf } = parts;
  return [
    ...STATIONS.map((s, i) => ({
      id: `go ${s}`,
      name: `Go to ${STATION_NAMES[s]}`,
      key: String(i + 1),
      run: () => goTo(s),
    })),
    ...looks.map((l) => ({
      id: `look ${l}`,
      name: `Show ${LOOK_NAMES[l].toLowerCase()} on the table`,
      run: () => actions.go({ look: l }),
    })),
    ...(looks.includes('mask')
      ? MASK_FORMS.map((maskForm) => ({
          id: `mask ${maskForm}`,
          name: `See the mask: ${MASK_FORM_NAMES[maskForm].toLowerCase()}`,
          run: () => actions.go({ look: 'mask', maskForm }),
        }))
      : []),
    { id: 'next look', name: 'Next view on the table', key: 'v', run: nextLook },
    { id: 'zoom', name: 'Between the whole picture and 1:1', key: '.', run: toggleZoom },
    {
      id: 'trace',
      name: 'Trace the pixel under the pointer through all steps',
      key: 't',
      run: toggleTrace,
    },
    {
      id: 'edit on',
      name: 'Switch the open edit off and on (hold: leave it out)',
      key: 'x',
      run: parts.toggleEdit,
    },
    { id: 'edit half', name: 'Half as much of the open edit', key: 'h', run: parts.halveEdit },
    { id: 'greys', name: 'Greys only, to judge how light it is', key: 'l', run: parts.toggleGreys },
    { id: 'watch', name: 'Pin a watch point', key: 'w', run: () => actions.take('watch') },
    ...(looks.includes('before')
      ? [
          {
            id: 'before',
            name: 'Before and after (hold: before)',
            key: 'b',
            run: () => actions.go({ look: 'before' }),
          },
        ]
      : []),
    { id: 'level', name: 'Draw a level line', run: () => (goTo('finish'), actions.take('level')) },
    { id: 'uprights', name: 'Draw two uprights', run: () => (goTo('finish'), actions.take('upright')) },
    { id: 'ground', name: 'Pull on the ground', run: () => (goTo('ground'), actions.take('ground')) },
    { id: 'yardstick', name: 'Draw a yardstick', run: () => (goTo('ground'), actions.take('yardstick')) },
    { id: 'grey', name: 'Sample what should be grey', run: () => (goTo('match'), actions.take('patch')) },
    { id: 'region', name: 'Draw the part that must fit', run: () => (goTo('fit'), actions.take('held')) },
    ...(['light', 'mid', 'dim'] as const).map((surround) => ({
      id: `surround ${surround}`,
      name: `Surround ${surround}`,
      run: () => setSurround(surround),
    })),
    { id: 'undo', name: 'Take back', key: 'Ctrl Z', run: actions.undo },
    { id: 'redo', name: 'Do again', key: 'Ctrl Shift Z', run: actions.redo },
    { id: 'resume', name: 'Go on with what was stopped', run: actions.resume },
    {
      id: 'proposed crop',
      name: 'Take the proposed crop',
      run: () => actions.edit('Proposed crop', setGeometry({ crop: undefined })),
    },
    {
      id: 'free motion',
      name: 'Let the frames move as needed',
      run: () => actions.edit('Frames move as needed', setMotion(set, 'auto')),
    },
    { id: 'shelf', name: 'To the shelf of projects', run: toShelf },
  ];
}
