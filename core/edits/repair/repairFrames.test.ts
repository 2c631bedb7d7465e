import { expect, test } from '@jest/globals';
import { type SetKind } from '@/core/capture/setKind';
import { type Edit } from '@/core/edits/edit';
import { referenceRegistration } from '@/core/register/registration';
import { flat } from '@/tests/paint';
import { regionOf } from '@/tests/regionPlane';
import { withFits } from '@/tests/sampleProject';
import { sceneOf, sizedProject } from '@/tests/sampleScene';
import { repair } from './repair';

const where = regionOf({
  kind: 'polygon',
  settings: {
    corners: [
      [0.2, 0.2],
      [0.5, 0.2],
      [0.4, 0.4],
    ],
  },
});

/** Frames that may show what lies behind a gap in a set of a kind. */
function candidates(kind: SetKind, edit: Partial<Edit> = {}): number | undefined {
  const fit = referenceRegistration();
  const sized = sizedProject(80, 60);
  const project = withFits(
    { ...sized, sets: sized.sets.map((s) => ({ ...s, kind })) },
    { dark: fit, mid: fit, light: fit },
  );
  const made = {
    id: 'r',
    kind: 'repair',
    settings: repair.plain,
    where,
    amount: 1,
    on: true,
    ...edit,
  } as Edit;
  const image = flat(80, 60, 0.5);
  const { compiled } = sceneOf(
    { ...project, edits: [made] },
    { merge: image, frames: { dark: image, mid: image, light: image } },
  );
  return compiled.repairs.get('r')?.frames.size;
}

test('frames that show one view at one sharpness may show what lies behind; those of a focus set show the same out of focus', () => {
  expect(candidates('bracket')).toBe(3);
  expect(candidates('moments')).toBe(3);
  expect(candidates('focus')).toBe(0);
  // a repair of everything is none
  expect(candidates('bracket', { where: undefined })).toBeUndefined();
});
