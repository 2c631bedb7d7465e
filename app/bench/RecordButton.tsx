'use client';
import { format, parseISO } from 'date-fns';
import { useEffect, useMemo, useState } from 'react';
import { Dialog, DialogTrigger, Heading, Input, Popover, SearchField } from 'react-aria-components';
import { styled } from 'styled-components';
import { type LoggedFinding, type LogEntry, type Project } from '@/core/recipe/project';
import { recordCsv, recordMarkdown } from '@/core/recipe/recordText';
import { useActions, useBench, useBenchParts, useScope } from '@/stations/benchContext';
import { download } from '@/stations/download';
import { looksOf } from '@/stations/looks';
import { type BenchActions } from '@/store/benchState';
import { isRealDate } from '@/core/capture/realDate';
import { storedProjects } from '@/store/database';
import { projectAfter, stepsOfRecord } from '@/store/earlierPicture';
import { fileStem } from '@/store/fileStem';
import { applySettings } from '@/store/edits/list';
import { START, STATIONS } from '@/store/session';
import { upToDate } from '@/store/stages/finishStage';
import { stationFindings } from '@/store/stationFindings';
import { Button } from '@/ui/controls/Button';
import { Toggle } from '@/ui/controls/Toggle';
import { formatValue } from '@/ui/formatFinding';
import { Hint, Row } from '@/ui/Section';
import { COLOUR, focusRing, FONT } from '@/ui/tokens';
import { STATION_NAMES } from './Trail';

const Record = styled(Dialog)`
  width: 470px;
  max-height: 66vh;
  display: flex;
  flex-direction: column;
  gap: 9px;
  padding: 14px 16px;
  background: ${COLOUR.raised};
  border: 1px solid ${COLOUR.control};
  outline: none;
  h2 {
    font-size: 14px;
  }
  ol {
    overflow-y: auto;
    min-height: 60px;
  }
  li {
    display: grid;
    grid-template-columns: 92px 1fr auto;
    align-items: start;
    gap: 0 6px;
    padding: 3px 0;
    border-top: 1px solid ${COLOUR.line};
  }
  small {
    font: 11px ${FONT.number};
    color: ${COLOUR.quiet};
  }
  time {
    font: 11px/1.7 ${FONT.number};
    color: ${COLOUR.quiet};
  }
`;

const Do = styled.span`
  display: flex;
  justify-content: flex-end;
`;

const Search = styled(Input)`
  width: 100%;
  height: 30px;
  padding: 0 8px;
  border: 1px solid ${COLOUR.control};
  border-radius: 3px;
  background: ${COLOUR.field};
  &::-webkit-search-cancel-button {
    display: none;
  }
  &[data-focused] {
    ${focusRing}
  }
`;

const MOST = 300;

/** What was done in this project, searchable, to be saved as Markdown or CSV. */
export function RecordButton() {
  return (
    <DialogTrigger>
      <Button>Record</Button>
      <Popover placement="bottom end">
        <Record>
          <RecordLines />
        </Record>
      </Popover>
    </DialogTrigger>
  );
}

/** The lines of the record; only an open one is made. */
function RecordLines() {
  const { bench } = useBenchParts();
  const history = useBench((s) => s.history);
  const { log } = history.project;
  const steps = useMemo(() => stepsOfRecord(history), [history]);
  const [search, setSearch] = useState('');
  const wanted = search.trim().toLowerCase();
  const [everywhere, setEverywhere] = useState(false);
  const others = useOtherRecords(everywhere);
  const lines: Line[] = [
    ...(everywhere ? others : []),
    ...log.map((entry, i) => ({ entry, project: '', step: steps.get(i) })),
  ].sort((a, b) => a.entry.time.localeCompare(b.entry.time));
  const found = lines.filter(({ entry, project }) => searchable(entry, project).includes(wanted));
  const actions = useActions();
  const save = (kind: 'md' | 'csv'): void => {
    const state = bench.store.getState();
    const { project } = state.history;
    const steps = STATIONS.map((station) => ({
      step: STATION_NAMES[station],
      findings: stationFindings(state, station) ?? [],
    }));
    const text = kind === 'md' ? recordMarkdown(project, steps) : recordCsv(project);
    download({
      name: `${fileStem(project.title)}-record.${kind}`,
      type: kind === 'md' ? 'text/markdown' : 'text/csv',
      bytes: new TextEncoder().encode(text),
    });
  };
  return (
    <>
      <Heading slot="title" level={2}>
        What was done
      </Heading>
      <SearchField aria-label="Search the record" value={search} onChange={setSearch}>
        <Search placeholder="Search" />
      </SearchField>
      <Toggle label="Of all projects in this browser" value={everywhere} onChange={setEverywhere} />
      <ol>
        {found
          .slice(-MOST)
          .reverse()
          .map(({ entry, project, step }, i) => (
            <li key={found.length - i}>
              <time dateTime={entry.time}>{format(parseISO(entry.time), 'd MMM HH:mm')}</time>
              <span>
                {project && <em>{project}: </em>}
                {entry.text}
                {entry.seconds !== undefined && <small> {spent(entry.seconds)}</small>}
                {entry.findings && <small> {worstWords(entry.findings)}</small>}
              </span>
              <Do>
                {step !== undefined && step < history.past.length - 1 && <Then entry={entry} step={step} />}
                {entry.settings && <Again entry={entry} onApply={actions.edit} />}
              </Do>
            </li>
          ))}
      </ol>
      {found.length === 0 && <Hint>{lines.length === 0 ? 'Nothing yet.' : 'Nothing like that.'}</Hint>}
      <Row>
        <Button onPress={() => save('md')}>Save as Markdown</Button>
        <Button onPress={() => save('csv')}>Save as CSV</Button>
      </Row>
    </>
  );
}

/** A line of a record; the project's title when it is another one's. */
interface Line {
  readonly entry: LogEntry;
  readonly project: string;
  /** its place among the steps that can be taken back; absent where it is none, or does not stand any more */
  readonly step?: number;
}

const searchable = ({ text, findings, settings }: LogEntry, project: string): string =>
  `${project} ${text} ${(findings ?? []).map((f) => f.label).join(' ')} ${settings?.of ?? ''}`.toLowerCase();

function spent(seconds: number): string {
  return seconds < 100 ? `${seconds.toFixed(1)} s` : `${Math.round(seconds / 60)} min`;
}

function worstWords(findings: readonly LoggedFinding[]): string {
  const serious = findings.filter((f) => f.verdict !== 'pass');
  if (serious.length === 0) return 'all well';
  return serious.map((f) => `${f.label} ${formatValue(f.value, f.unit)}`).join(', ');
}

/** Compares the picture with what it was after a step. */
function Then({ entry, step }: { entry: LogEntry; step: number }) {
  const { bench } = useBenchParts();
  const isShown = useBench(
    ({ session }) => session.look === 'before' && session.before === 'then' && session.then === step,
  );
  const kind = useScope()?.set.kind ?? 'bracket';
  const compare = (): void => {
    const state = bench.store.getState();
    const { station } = state.session;
    const own = looksOf(station, kind);
    if (isShown) return bench.actions.go({ look: own[0], before: START.before });
    if (!upToDate(state, state.history.project))
      return bench.actions.report('The picture is still being made. Compare it when it is there.');
    const then = projectAfter(state.history, step);
    if (!then || !upToDate(state, then))
      return bench.actions.report(
        `What the picture was made of after “${entry.text}” is not there any more. Take back to there to see it.`,
      );
    const at = own.includes('before') ? station : 'finish';
    bench.actions.go({ station: at, look: 'before', before: 'then', then: step });
  };
  return (
    <Button
      data-plain
      aria-pressed={isShown}
      aria-label={`Compare with the picture after “${entry.text}”`}
      onPress={compare}
    >
      Compare
    </Button>
  );
}

/** Puts the settings of an earlier step to work here. */
function Again({ entry, onApply }: { entry: LogEntry; onApply: BenchActions['edit'] }) {
  const set = useScope()?.set.id ?? '';
  const { settings } = entry;
  if (!settings) return null;
  return (
    <Button
      data-plain
      aria-label={`Apply the settings of “${entry.text}” here`}
      onPress={() => onApply(`Applied again: ${entry.text}`, applySettings(set, settings))}
    >
      Apply
    </Button>
  );
}

/** What a stored project's record tells; a damaged one has no say. */
function linesOf(project: Partial<Project> | undefined): readonly LogEntry[] {
  const { log } = project ?? {};
  return Array.isArray(log)
    ? (log as readonly LogEntry[]).filter((e: Partial<LogEntry> | null) => isRealDate(String(e?.time)))
    : [];
}

/** Records of the other projects of this browser, while they are asked for. */
function useOtherRecords(wanted: boolean): readonly Line[] {
  const own = useBench((s) => s.history.project.id);
  const [lines, setLines] = useState<readonly Line[]>([]);
  useEffect(() => {
    if (!wanted) return;
    let gone = false;
    storedProjects()
      .then((projects) => {
        if (gone) return;
        setLines(
          projects
            .filter((p) => p.id !== own)
            .flatMap(({ project }) =>
              linesOf(project).map((entry) => ({ entry, project: String(project.title) })),
            ),
        );
      })
      .catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [wanted, own]);
  return lines;
}
