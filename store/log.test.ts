import { describe, expect, test } from '@jest/globals';
import { judge } from '@/core/proof/finding';
import { settingsOf } from '@/core/recipe/settings';
import { exposed } from '@/tests/exposed';
import { baseOf, sampleProject } from '@/tests/sampleProject';
import { applySettings, setKindOfEdit } from './edits/list';
import { setHow, setMeasure, setMotion } from './edits/sets';
import { record, startHistory } from './history';
import { logEdit, logJoined, logMade, logNote } from './log';

const start = startHistory(sampleProject());
const last = (history: typeof start) => history.project.log[history.project.log.length - 1];

describe('the record', () => {
  test('an edit leaves the settings that it led to', () => {
    const after = record(start, 'Middle tones 0.50', setMeasure('set', 'exposedness', 0.5));
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
    const one = logEdit(start, record(start, 'Exposure', exposed(0.1), 'g'), 'Exposure');
    const two = logJoined(one, record(one, 'Exposure', exposed(0.7), 'g'));
    expect(two.project.log).toHaveLength(one.project.log.length);
    expect(last(two).settings).toMatchObject({
      of: 'edits',
      whole: [{ kind: 'noise' }, { kind: 'exposure', settings: { stops: 0.7 } }],
    });
  });

  test('time is counted between steps, long pauses are not', () => {
    const one = logNote(start, 'begun');
    const two = logEdit(one, record(one, 'Frames may move', setMotion('set', 'shift')), 'Frames may move');
    expect(last(two).seconds).toBeLessThan(5);
    const old = {
      ...one,
      project: { ...one.project, log: [{ time: '2020-01-01T00:00:00Z', text: 'long ago' }] },
    };
    expect(last(logEdit(old, record(old, 'x', setMotion('set', 'shift')), 'x')).seconds).toBeUndefined();
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
      const set = { kind: 'set', id: 'set' } as const;
      const whole = { kind: 'whole' } as const;
      const changes = [
        setMotion('set', 'similarity'),
        setHow('set', { method: 'radiance', response: 'recovered' }),
        setKindOfEdit(set, 'toneMap', { strength: 0.4 }, 'set-toneMap'),
        setKindOfEdit(set, 'saturation', { factor: 0.9 }, 'set-saturation'),
        setKindOfEdit(whole, 'zones', { zones: [{ at: -3, by: 1 }] }, 'whole-zones'),
        exposed(0.4),
        setKindOfEdit(whole, 'noise', { strength: 0.2 }, 'whole-noise'),
        setKindOfEdit(whole, 'sharpen', { radius: 2, amount: 1, edge: 0.1 }, 'whole-sharpen'),
      ];
      const { project } = changes.reduce((h, change, i) => record(h, `${i}`, change), start);
      const kept = settingsOf(project, baseOf(project).set, of);
      expect(kept).not.toEqual(settingsOf(start.project, baseOf(start.project).set, of));
      const other = record(
        startHistory({ ...sampleProject(), id: 'other' }),
        'again',
        applySettings('set', kept),
      ).project;
      expect(settingsOf(other, baseOf(other).set, of)).toEqual(kept);
      expect(other.id).toBe('other');
    },
  );
});
