import { expect, test } from '@jest/globals';
import { IDENTITY } from '@/core/raster/matrix3';
import { type Project } from '@/core/recipe/project';
import { referenceRegistration } from '@/core/register/registration';
import { baseOf, sampleFit, sampleProject, withFits, withSet } from '@/tests/sampleProject';
import { newEdit } from './edits/list';
import { startHistory } from './history';
import { START } from './session';
import { findingsOfFit, type FindingSource, stationFindings } from './stationFindings';

/** A panorama of two views, the first a bracket of two frames. */
function bracketedPanorama(dark: Parameters<typeof sampleFit>[2]): Project {
  const views = [{ head: 'mid', frames: ['dark', 'mid'] }];
  return withFits(
    withSet(sampleProject({ kind: 'panorama' }), { views }),
    { mid: referenceRegistration(), light: sampleFit(200, 0), dark: sampleFit(0, 0, dark) },
    {
      frames: ['mid', 'light'],
      fit: {
        lens: { focalPx: 900, k1: 0, width: 600, height: 400 },
        rotations: [IDENTITY, IDENTITY],
        pairs: [],
      },
    },
  );
}
const leftOut = (project: Project) => findingsOfFit(baseOf(project))?.find((f) => f.id === 'fit.leftOut');

test('a frame that its view’s bracket leaves out counts among those left out of a panorama, with why', () => {
  expect(leftOut(bracketedPanorama({}))).toMatchObject({ value: 0, verdict: 'pass' });
  const out = leftOut(bracketedPanorama({ fitted: false, why: 'it does not show the same view' }));
  expect(out?.value).toBe(1);
  expect(out?.why).toBe('dark.jpg is left out: it does not show the same view.');
});

test('a change of exposure counts among the tones that Match moved', () => {
  const moved = (project: Project): number | undefined => {
    const made: FindingSource = {
      ...{ history: startHistory(project), session: START, unreadable: 0 },
      ...{ merged: {}, made: {} },
    };
    return stationFindings(made, 'match')?.find((f) => f.id === 'match.moved')?.value;
  };
  const plain = { ...sampleProject(), edits: [] };
  expect(moved(plain)).toBeUndefined();
  expect(moved({ ...plain, edits: [newEdit('e', 'exposure', { stops: -1.5 })] })).toBe(1.5);
  // an amount of nothing changes nothing
  expect(moved({ ...plain, edits: [newEdit('e', 'exposure')] })).toBeUndefined();
});
