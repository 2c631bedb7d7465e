import { describe, expect, test } from '@jest/globals';
import { produce } from 'immer';
import { type Project } from '@/core/recipe/project';
import { parseProject } from '@/core/recipe/parseProject';
import { referenceRegistration } from '@/core/register/registration';
import { baseOf, withFits, sampleProject } from '@/tests/sampleProject';
import { isOneFrame } from '../stages/mergeStage';
import { type Change } from './drafts';
import { isLastUsed, moveFrames, setReference, setStops, setUsed } from './frames';
import { setKind } from './sets';

const after = (project: Project, ...changes: readonly Change[]): Project =>
  changes.reduce((now, change) => produce(now, change), project);
const used = (project: Project) => project.frames.filter((f) => f.used).map((f) => f.id);

describe('frames that take part', () => {
  test('the reference always does: a frame that was left out and becomes it is used again', () => {
    const project = after(sampleProject(), setUsed('dark', false), setReference('dark'));
    expect(baseOf(project).set.reference).toBe('dark');
    expect(used(project)).toContain('dark');
  });

  test('the last one stays, so that there is always something to show', () => {
    const project = after(sampleProject(), setUsed('dark', false), setUsed('light', false));
    expect(used(project)).toEqual(['mid']);
    expect(isLastUsed(project, 'mid')).toBe(true);
    expect(isLastUsed(project, 'dark')).toBe(false);
    expect(after(project, setUsed('mid', false))).toBe(project);
    const fitted = withFits(project, { mid: referenceRegistration() });
    expect(isOneFrame(baseOf(fitted))).toBe(true);
  });

  test('a file that leaves its reference out is opened with it', () => {
    const broken = produce(sampleProject(), (draft) => {
      for (const frame of draft.frames) frame.used = false;
    });
    expect(used(parseProject(JSON.parse(JSON.stringify(broken)), 'file'))).toEqual(['mid']);
  });

  test('what is left when the others go is a frame by itself, unless its kind was chosen', () => {
    const swap = produce(sampleProject(), (draft) => {
      draft.sets[0].kind = 'swap';
    });
    const alone = (project: Project) =>
      baseOf(after(project, moveFrames(['dark', 'light'], { kind: 'plates' }))).set.kind;
    expect(alone(swap)).toBe('bracket');
    expect(alone(after(swap, setKind('set', 'swap')))).toBe('swap');
  });

  test('exposures keep where they come from', () => {
    const project = after(
      sampleProject(),
      setStops(
        new Map([
          ['dark', { stops: -1.9, source: 'measured' as const }],
          ['light', { stops: 2, source: 'exif' as const }],
        ]),
      ),
    );
    expect(project.frames.map((f) => [f.id, f.stops, f.stopsSource])).toEqual(
      expect.arrayContaining([
        ['dark', -1.9, 'measured'],
        ['light', 2, 'exif'],
      ]),
    );
  });
});
