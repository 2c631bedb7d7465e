import { describe, expect, test } from '@jest/globals';
import { judge } from '@/core/proof/finding';
import { settingsOf } from '@/core/recipe/settings';
import { sampleProject } from '@/tests/sampleProject';
import { applySettings, setAdjust, setFinish, setHow, setMeasure, setMotion } from './edits';
import { record, startHistory } from './history';
import { logEdit, logJoined, logMade, logNote } from './log';

const start = startHistory(sampleProject());
const last = (history: typeof start) => history.project.log[history.project.log.length - 1];

describe('the record', () => {
  test('an edit leaves the settings that it led to', () => {
    const after = record(start, 'Middle tones 0.50', setMeasure('exposedness', 0.5));
    const logged = logEdit(start, after, 'Middle tones 0.50');
    expect(last(logged)).toMatchObject({
      text: 'Middle tones 0.50',
      settings: { of: 'merge', merge: { exposedness: 0.5 } },
    });
    const renamed = logEdit(
      start,
      record(start, 'Nothing of a step', (d) => void (d.title = 'x')),
      'Named',
    );
    expect(last(renamed).settings).toBeUndefined();
  });

  test('a gesture that goes on keeps its line up to date', () => {
    const one = logEdit(start, record(start, 'Exposure', setFinish({ exposure: 0.1 }), 'g'), 'Exposure');
    const two = logJoined(one, record(one, 'Exposure', setFinish({ exposure: 0.7 }), 'g'));
    expect(two.project.log).toHaveLength(one.project.log.length);
    expect(last(two).settings).toMatchObject({ of: 'finish', exposure: 0.7 });
  });

  test('time is counted between steps, long pauses are not', () => {
    const one = logNote(start, 'begun');
    const two = logEdit(one, record(one, 'Frames may move', setMotion('shift')), 'Frames may move');
    expect(last(two).seconds).toBeLessThan(5);
    const old = {
      ...one,
      project: { ...one.project, log: [{ time: '2020-01-01T00:00:00Z', text: 'long ago' }] },
    };
    expect(last(logEdit(old, record(old, 'x', setMotion('shift')), 'x')).seconds).toBeUndefined();
  });

  test('what was computed leaves its time and its findings, the worst first', () => {
    const made = logMade(start, 'Merged', 1.2345, [judge('merge.black', 0), judge('merge.halo', 0.9)]);
    expect(last(made)).toMatchObject({ text: 'Merged', seconds: 1.23 });
    expect(last(made).findings?.map((f) => f.verdict)).toEqual(['fail', 'pass']);
  });
});

describe('settings of an earlier step', () => {
  test.each(['fit', 'merge', 'match', 'finish'] as const)(
    '%s: are applied again, also in another project',
    (of) => {
      let history = record(start, 'a', setMotion('similarity'));
      history = record(
        history,
        'b',
        setHow({ method: 'radiance', response: 'recovered', tone: { strength: 0.4 } }),
      );
      history = record(
        history,
        'c',
        setAdjust({ kind: 'whole' }, { zones: [{ at: -3, by: 1 }], saturation: 0.7 }),
      );
      history = record(
        history,
        'd',
        setFinish({ exposure: 0.4, noise: 0.2, sharpen: { radius: 2, amount: 1, edge: 0.1 } }),
      );
      const kept = settingsOf(history.project, of);
      const other = record(startHistory({ ...sampleProject(), id: 'other' }), 'again', applySettings(kept));
      expect(settingsOf(other.project, of)).toEqual(kept);
      expect(other.project.id).toBe('other');
    },
  );
});
