import { type LensCorrection } from '../capture/lensFaults';
import { KIND_NAMES } from '../capture/setKind';
import { type Edit } from '../edits/edit';
import { ranked, says } from '../edits/ranked';
import { allLayers } from '../layers/layer';
import { type Finding } from '../proof/finding';
import { plainText } from './plainText';
import { fitOf, inOrder, plates, referenceOf, setScope } from './setFrames';
import { type FrameSet, type LogEntry, type Project } from './project';

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

/** Edits in words, in the order in which they are done. */
function describeEdits(edits: readonly Edit[]): string {
  const done = ranked(edits).filter((e) => e.on);
  if (done.length === 0) return 'nothing';
  return done
    .map((e) => {
      const where = e.where === undefined ? '' : ', in a region';
      const share = e.amount === 1 ? '' : `, ${number(100 * e.amount)} %`;
      return `${e.kind} ${says(e)}${where}${share}`;
    })
    .join('; ');
}

/** The record of a project as Markdown: frames, findings of every step, settings, and what was done when. */
export function recordMarkdown(project: Project, steps: readonly StepFindings[]): string {
  const scopes = project.sets.flatMap((set) => setScope(project, set.id) ?? []);
  const frames = scopes.flatMap((scope) => {
    const zero = referenceOf(scope)?.stops ?? 0;
    return inOrder(scope).map((f) => {
      const fit = fitOf(scope, f);
      const lies = !f.used
        ? 'not used'
        : !fit
          ? 'not fitted yet'
          : fit.fitted
            ? `${number(fit.residual.typical)} px, worst ${number(fit.residual.worst)} px`
            : `left out: ${fit.why}`;
      const name = f.id === scope.set.reference ? `${f.file} (reference)` : f.file;
      return row(scope.set.name, name, `${f.width} × ${f.height}`, `${number(f.stops - zero)} EV`, lies);
    });
  });
  const byThemselves = plates(project).map((f) =>
    row('by itself', f.file, `${f.width} × ${f.height}`, '', ''),
  );
  const lines = [
    `# ${plain(project.title)}`,
    '',
    `Begun ${project.created}, last changed ${project.changed}.`,
    '',
    '## Frames',
    '',
    row('set', 'file', 'size', 'exposure', 'fit'),
    row('---', '---', '---', '---', '---'),
    ...frames,
    ...byThemselves,
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
    ...project.sets.flatMap(describeSet),
    ...allLayers(project.layers).map((l) => {
      const parts =
        typeof l.where === 'object'
          ? `, a region of ${l.where.parts.length} parts`
          : l.where
            ? ', in a named region'
            : '';
      const edits = l.edits.length > 0 ? `; ${describeEdits(l.edits)}` : '';
      return `- Layer ${plain(l.name)}: ${l.blend}, opacity ${number(l.opacity)}${parts}${l.shown ? '' : ', not shown'}${edits}`;
    }),
    `- The whole: ${describeEdits(project.edits)}`,
    `- Kept: ratio ${project.geometry.ratio}`,
    '',
    '## Done',
    '',
    ...project.log.map((entry) => `- ${plain(entry.time)}  ${plain(`${entry.text}${remarks(entry)}`)}`),
    '',
  ];
  return lines.join('\n');
}

function describeSet({ name, kind, motion, prepare, method, merge, edits }: FrameSet): string[] {
  const how =
    kind === 'bracket'
      ? `by ${method}: contrast ${number(merge.contrast)}, saturation ${number(merge.saturation)}, exposedness ${number(merge.exposedness)}`
      : `as a ${KIND_NAMES[kind]}`;
  return [
    `- ${plain(name)}: motion ${motion}`,
    `- ${plain(name)} prepared: white balance ${prepare.balance === 'even' ? 'evened out' : 'as shot'}${prepare.dust ? ', dust taken out' : ''}${lensText(prepare.lens)}`,
    `- ${plain(name)} merged ${how}`,
    `- ${plain(name)} changed: ${describeEdits(edits)}`,
  ];
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
