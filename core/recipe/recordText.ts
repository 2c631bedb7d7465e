import { type LensCorrection } from '../capture/lensFaults';
import { type Adjust, adjusts } from '../match/adjust';
import { type Finding } from '../proof/finding';
import { plainText } from './plainText';
import { fitOf, inOrder, type LogEntry, type Project, referenceOf } from './project';

/** Findings of one step, under its name. */
export interface StepFindings {
  readonly step: string;
  readonly findings: readonly Finding[];
}

const number = (v: number): string => String(Number(v.toFixed(3))).replace('-', '−');

/** Text in a Markdown document (CommonMark): no control characters, no line ends, nothing that would be taken for markup or HTML. */
const plain = (text: string): string =>
  plainText(text, 2000)
    .replace(/\s+/g, ' ')
    .replace(/[\\`*_[\]<>&|]/g, '\\$&');

/** A cell of a Markdown table. */
const cell = (text: string): string => (/^-+$/.test(text) ? text : plain(text));

const row = (...cells: readonly string[]): string => `| ${cells.map(cell).join(' | ')} |`;

/** An adjustment in words. */
function describeAdjust(adjust: Adjust): string {
  if (!adjusts(adjust)) return 'nothing';
  const { neutral, zones, saturation } = adjust;
  return [
    neutral ? `gains ${neutral.gains.map(number).join(' ')}` : '',
    ...zones.filter((z) => z.by !== 0).map((z) => `zone ${number(z.at)} by ${number(z.by)}`),
    saturation === 1 ? '' : `saturation ${number(saturation)}`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** The record of a project as Markdown: frames, findings of every step, settings, and what was done when. */
export function recordMarkdown(project: Project, steps: readonly StepFindings[]): string {
  const zero = referenceOf(project)?.stops ?? 0;
  const frames = inOrder(project).map((f) => {
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
    `# ${plain(project.title)}`,
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
    `- Prepared: white balance ${project.set.prepare.balance === 'even' ? 'evened out' : 'as shot'}${lensText(project.set.prepare.lens)}`,
    `- Merge by ${project.set.method}: contrast ${number(merge.contrast)}, saturation ${number(merge.saturation)}, exposedness ${number(merge.exposedness)}`,
    ...project.layers.map(
      (l) =>
        `- Layer ${plain(l.name)}: ${l.blend}, opacity ${number(l.opacity)}, ${l.mask.strokes.length} strokes${l.visible ? '' : ', not shown'}`,
    ),
    `- Match: ${describeAdjust(project.match.set)} for the set, ${describeAdjust(project.match.whole)} for the whole`,
    `- Finish: ratio ${project.finish.ratio}, exposure ${number(project.finish.exposure)} EV, noise reduction ${number(project.finish.noise)}, sharpening ${number(project.finish.sharpen.amount)} at ${number(project.finish.sharpen.radius)} px`,
    '',
    '## Done',
    '',
    ...project.log.map((entry) => `- ${plain(entry.time)}  ${plain(`${entry.text}${remarks(entry)}`)}`),
    '',
  ];
  return lines.join('\n');
}

/** Time spent and what was found, after a line of the record. */
function remarks({ seconds, findings }: LogEntry): string {
  const serious = (findings ?? []).filter((f) => f.verdict !== 'pass');
  const parts = [
    seconds === undefined ? '' : `${number(seconds)} s`,
    ...serious.map((f) => `${f.label} ${number(f.value)} ${f.unit}`.trim()),
  ].filter(Boolean);
  return parts.length > 0 ? ` (${parts.join('; ')})` : '';
}

/** A field of a CSV file (RFC 4180): quoted where it must be; a leading sign of a formula is made harmless. */
const field = (text: string): string => {
  const safe = /^[=+@\t\r-]/.test(text) ? `'${text}` : text;
  return /[",\n\r]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
};

/** What was done when, as CSV (RFC 4180): time, text, seconds spent, findings, settings as JSON. */
export function recordCsv(project: Project): string {
  const rows = [
    ['time', 'text', 'seconds', 'findings', 'settings'],
    ...project.log.map((entry) => [
      entry.time,
      entry.text,
      entry.seconds === undefined ? '' : String(entry.seconds),
      (entry.findings ?? []).map((f) => `${f.label} ${number(f.value)} ${f.unit} ${f.verdict}`).join('; '),
      entry.settings ? JSON.stringify(entry.settings) : '',
    ]),
  ];
  return rows.map((cells) => cells.map(field).join(',')).join('\r\n') + '\r\n';
}

function lensText(lens?: LensCorrection): string {
  if (!lens) return '';
  const { distortion, vignette, red, blue } = lens;
  return `, lens corrected: bending ${(100 * distortion).toFixed(1)} %, corners ${vignette.toFixed(2)} EV, red ${(1000 * red).toFixed(1)} ‰, blue ${(1000 * blue).toFixed(1)} ‰`;
}
