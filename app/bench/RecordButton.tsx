'use client';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { Dialog, DialogTrigger, Heading, Input, Popover, SearchField } from 'react-aria-components';
import { styled } from 'styled-components';
import { recordCsv, recordMarkdown } from '@/core/recipe/recordText';
import { useBench, useBenchParts } from '@/stations/benchContext';
import { download } from '@/stations/download';
import { fileStem } from '@/store/deliver';
import { STATIONS } from '@/store/session';
import { stationFindings } from '@/store/stationFindings';
import { Button } from '@/ui/controls/Button';
import { Hint, Row } from '@/ui/Section';
import { COLOUR, focusRing, FONT } from '@/ui/tokens';
import { STATION_NAMES } from './Trail';

const Record = styled(Dialog)`
  width: 400px;
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
    grid-template-columns: 92px 1fr;
    padding: 3px 0;
    border-top: 1px solid ${COLOUR.line};
  }
  time {
    font: 11px/1.7 ${FONT.number};
    color: ${COLOUR.quiet};
  }
`;

const Search = styled(Input)`
  width: 100%;
  height: 30px;
  padding: 0 8px;
  border: 1px solid ${COLOUR.control};
  border-radius: 3px;
  background: #fff;
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
  const { bench } = useBenchParts();
  const log = useBench((s) => s.history.project.log);
  const [search, setSearch] = useState('');
  const wanted = search.trim().toLowerCase();
  const found = log.filter((entry) => entry.text.toLowerCase().includes(wanted));
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
    <DialogTrigger>
      <Button>Record</Button>
      <Popover placement="bottom end">
        <Record>
          <Heading slot="title" level={2}>
            What was done
          </Heading>
          <SearchField aria-label="Search the record" value={search} onChange={setSearch}>
            <Search placeholder="Search" />
          </SearchField>
          <ol>
            {found
              .slice(-MOST)
              .reverse()
              .map((entry, i) => (
                <li key={found.length - i}>
                  <time dateTime={entry.time}>{format(parseISO(entry.time), 'd MMM HH:mm')}</time>
                  {entry.text}
                </li>
              ))}
          </ol>
          {found.length === 0 && <Hint>{log.length === 0 ? 'Nothing yet.' : 'Nothing like that.'}</Hint>}
          <Row>
            <Button onPress={() => save('md')}>Save as Markdown</Button>
            <Button onPress={() => save('csv')}>Save as CSV</Button>
          </Row>
        </Record>
      </Popover>
    </DialogTrigger>
  );
}
