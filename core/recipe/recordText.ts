import { type Finding } from '../proof/finding';
import { byExposure, fitOf, type Project, referenceOf } from './project';

/** Findings of one step, under its name. */
export interface StepFindings {
  readonly step: string;
  readonly findings: readonly Finding[];
}

const number = (v: number): string => String(Number(v.toFixed(3))).replace('-', '−');

/** A cell of a Markdown table: bars and line ends would break it. */
const cell = (text: string): string => text.replace(/\|/g, '\\|').replace(/\s+/g, ' ');

const row = (...cells: readonly string[]): string => `| ${cells.map(cell).join(' | ')} |`;

/** The record of a project as Markdown: frames, findings of every step, settings, and what was done when. */
export function recordMarkdown(project: Project, steps: readonly StepFindings[]): string {
  const zero = referenceOf(project)?.stops ?? 0;
  const frames = byExposure(project.frames).map((f) => {
    const fit = fitOf(project, f);
    const lies = !f.used
      ? 'not used'
      : !fit
        ? 'not fitted yet'
        : fit.fitted
          ? `${number(fit.residual.typical)} px, worst ${number(fit.residual.worst)} px`
          : `left out: ${fit.why}`;
    const name = f.id === project.set.reference ? `${f.file} (reference)` : f.file;
    return row(name, `${f.width} × ${f.height}`, `${number(f.stops - zero)} EV`, lies);
  });
  const { merge, motion } = project.set;
  const lines = [
    `# ${project.title}`,
    '',
    `Begun ${project.created}, last changed ${project.changed}.`,
    '',
    '## Frames',
    '',
    row('file', 'size', 'exposure', 'fit'),
    row('---', '---', '---', '---'),
    ...frames,
    '',
    '## Findings',
    '',
    row('step', 'finding', 'value', 'verdict', 'meaning'),
    row('---', '---', '---', '---', '---'),
    ...steps.flatMap(({ step, findings }) =>
      findings.map((f) => row(step, f.label, `${number(f.value)} ${f.unit}`.trim(), f.verdict, f.why)),
    ),
    '',
    '## Settings',
    '',
    `- Motion: ${motion}`,
    `- Merge: contrast ${number(merge.contrast)}, saturation ${number(merge.saturation)}, exposedness ${number(merge.exposedness)}`,
    ...project.layers.map(
      (l) =>
        `- Layer ${l.name}: ${l.blend}, opacity ${number(l.opacity)}, ${l.mask.strokes.length} strokes${l.visible ? '' : ', not shown'}`,
    ),
    `- Finish: ratio ${project.finish.ratio}, exposure ${number(project.finish.exposure)} EV`,
    '',
    '## Done',
    '',
    ...project.log.map((entry) => `- ${entry.time}  ${entry.text.replace(/\s+/g, ' ')}`),
    '',
  ];
  return lines.join('\n');
}

/** A field of a CSV file (RFC 4180): quoted where it must be; a leading sign of a formula is made harmless. */
const field = (text: string): string => {
  const safe = /^[=+@\t\r-]/.test(text) ? `'${text}` : text;
  return /[",\n\r]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
};

/** What was done when, as CSV (RFC 4180): time, text. */
export function recordCsv(project: Project): string {
  const rows = [['time', 'text'], ...project.log.map((entry) => [entry.time, entry.text])];
  return rows.map((cells) => cells.map(field).join(',')).join('\r\n') + '\r\n';
}
