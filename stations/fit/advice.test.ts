import { expect, test } from '@jest/globals';
import { type MadeFact, type Project } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { referenceRegistration } from '@/core/register/registration';
import { baseOf, sampleFit, sampleProject, withFits, withSet } from '@/tests/sampleProject';
import { fitAdvice } from './advice';

/** A bracket whose frames are fitted. @param light of the lightest frame */
const fitted = (light: Parameters<typeof sampleFit>[2], bent: readonly string[] = []): Project =>
  withFits(withSet(sampleProject(), bent.length > 0 ? { bent } : {}), {
    mid: referenceRegistration(),
    dark: sampleFit(0, 0),
    light: sampleFit(0, 0, light),
  });

/** What a node of the base's graph gives, put into the project. */
function withFact(project: Project, of: 'aparts' | 'bends', frame: string, fact: MadeFact): Project {
  const node = setGraph(baseOf(project))[of].get(frame) ?? '';
  expect(node).not.toBe('');
  return { ...project, made: { ...project.made, [node]: fact } };
}

test('a part that lies elsewhere is offered to be bent, though the plane is good', () => {
  expect(fitAdvice(baseOf(fitted({})))?.action).toBeUndefined();
  const apart = { px: 6.2, share: 0.1, x: 10, y: 10 };
  const advice = fitAdvice(baseOf(withFact(fitted({}), 'aparts', 'light', { of: 'apart', apart })));
  expect(advice?.text).toContain('6.2 px off though the rest fits');
  expect(advice?.action).toMatchObject({ kind: 'bend', frame: { id: 'light' } });
});

test('a frame that no plane lays is offered to be bent once; where that did not help, it is said', () => {
  const lost = { fitted: false, why: 'the fit did not settle' } as const;
  expect(fitAdvice(baseOf(fitted(lost)))?.action).toMatchObject({ kind: 'leaveOut', orBend: true });
  const tried = withFact(fitted(lost, ['light']), 'bends', 'light', { of: 'bend' });
  const advice = fitAdvice(baseOf(tried));
  expect(advice?.text).toContain('Bending it did not lay it on the reference either.');
  expect(advice?.action).toMatchObject({ kind: 'leaveOut', orBend: false });
});

test('what is asked for and not measured yet is no failure, and what could not be bent is not offered it again', () => {
  const lost = { fitted: false, why: 'the fit did not settle' } as const;
  const waiting = fitAdvice(baseOf(fitted(lost, ['light'])));
  expect(waiting?.text).not.toContain('Bending');
  expect(waiting?.action).toMatchObject({ kind: 'leaveOut', orBend: false });
  const off = { residual: { typical: 0.2, worst: 2.5 } };
  expect(fitAdvice(baseOf(fitted(off)))?.action).toMatchObject({ kind: 'bend', frame: { id: 'light' } });
  const tried = withFact(fitted(off, ['light']), 'bends', 'light', { of: 'bend' });
  expect(fitAdvice(baseOf(tried))?.action).toBeUndefined();
});

test('of frames in which things are meant to move none is asked for parts that lie elsewhere', () => {
  const moments = withSet(fitted({}), { kind: 'moments' });
  expect(setGraph(baseOf(moments)).aparts.size).toBe(0);
  expect(setGraph(baseOf(fitted({}))).aparts.size).toBe(2);
  expect(setGraph(baseOf(fitted({}, ['light']))).aparts.has('light')).toBe(false);
});
