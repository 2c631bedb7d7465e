import { describe, expect, test } from '@jest/globals';
import { judge } from '@/core/proof/finding';
import { sampleProject } from '@/tests/sampleProject';
import { recordCsv, recordMarkdown } from './recordText';

const project = {
  ...sampleProject(),
  title: 'Gull | island',
  log: [
    { time: '2026-10-03T12:00:00.000Z', text: 'Added 3 frames' },
    { time: '2026-10-03T12:01:00.000Z', text: 'Named it "Gull, island"' },
    {
      time: '2026-10-03T12:02:00.000Z',
      text: '=SUM(A1)',
      seconds: 2.5,
      findings: [{ label: 'Halo', value: 0.4, unit: 'EV', verdict: 'watch' as const }],
    },
  ],
};

describe('the record', () => {
  test('as Markdown names frames, fit, findings, settings and what was done', () => {
    const text = recordMarkdown(project, [{ step: 'Fit', findings: [judge('fit.typical', 0.05)] }]);
    expect(text).toContain('| mid.jpg (reference) | 600 × 400 | 0 EV | 0 px, worst 0 px |');
    expect(text).toContain('| dark.jpg | 600 × 400 | −2 EV | 0.05 px, worst 0.2 px |');
    expect(text).toContain('| Fit | Typical error | 0.05 px | pass |');
    expect(text).toContain('- Layer Merge: normal, opacity 1');
    expect(text).toContain('- 2026-10-03T12:00:00.000Z  Added 3 frames');
    expect(text).toContain('=SUM(A1) (2.5 s; Halo 0.4 EV)');
  });

  test('names cannot bring markup, HTML or control characters into the document', () => {
    const title = '<img src=x onerror=alert(1)> [a](b) \u0007\u202bc`d`';
    const text = recordMarkdown({ ...sampleProject(), title }, []);
    const [first] = text.split('\n');
    expect(first).toBe('# \\<img src=x onerror=alert(1)\\> \\[a\\](b) \u202bc\\`d\\`');
    expect(/[\u0000-\u0009\u000b-\u001f]/.test(text)).toBe(false);
  });

  test('as CSV follows RFC 4180, and no field becomes a formula', () => {
    expect(recordCsv(project).split('\r\n')).toEqual([
      'time,text,seconds,findings,settings',
      '2026-10-03T12:00:00.000Z,Added 3 frames,,,',
      '2026-10-03T12:01:00.000Z,"Named it ""Gull, island""",,,',
      "2026-10-03T12:02:00.000Z,'=SUM(A1),2.5,Halo 0.4 EV watch,",
      '',
    ]);
  });
});
