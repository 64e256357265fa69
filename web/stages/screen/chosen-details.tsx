import { lazy, useMemo } from 'react';
import styled from 'styled-components';
import { type ReadingDetails, readingDetails } from '../../../core/analysis/reading-details.ts';
import { cellsRead } from '../../../core/forms/index.ts';
import type { Measurand, NotePart, Reading } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Observation } from '../../../core/observations/observation.ts';
import { Photo } from '../../app/photo.tsx';
import { Later } from '../../ui/later.tsx';
import { dayAndTime } from '../../ui/when.ts';

// Drawn where there is a grid.
const ChosenGrid = lazy(async () => ({ default: (await import('./chosen-grid.tsx')).ChosenGrid }));

const List = styled.dl`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 3px 12px;
  margin: 8px 0;
  padding-left: 17px;
  font-size: var(--size-13);
  dt {
    color: var(--quiet);
  }
  dd {
    overflow-wrap: anywhere;
  }
`;

const Remarks = styled.ul`
  display: grid;
  gap: 8px;
  margin-bottom: 8px;
  padding-left: 17px;
  font-size: var(--size-13);
`;

const SOURCES: Record<Reading['source'], string> = {
  typed: 'typed in',
  timer: 'by the stopwatch',
  instrument: 'by the instrument',
  recording: 'worked out from a file',
  import: 'imported',
};

/** The session in which it was taken: when it began, who was there, with what. */
const sessionWords = ({ startedAt, operator, instrument }: NonNullable<ReadingDetails['session']>): string =>
  [dayAndTime(startedAt), operator, instrument].filter(Boolean).join(', ');

/** Where in the order it was taken; what was imported has no place in it. */
const runWords = ({ round, place }: Observation, source: ReadingDetails['source']): string =>
  source === undefined || source === 'import'
    ? `round ${String(round)}`
    : `round ${String(round)}, run ${String(place + 1)} of the order`;

/** Whether a remark is said with the reading already. */
const isSaid = ({ readingId, photo }: NotePart): boolean => readingId !== null && photo === null;

/** What is known of the chosen reading besides its value: its parts, run, session, conditions, notes and photos. */
export function ChosenDetails({
  document,
  measurand,
  chosen,
}: {
  document: StudyDocument;
  measurand: Measurand;
  chosen: Observation;
}) {
  const details = useMemo(() => readingDetails(document, measurand, chosen), [document, measurand, chosen]);
  const { parts, from, source, session, conditions, remarks } = details;
  const lines = [
    ...parts,
    ...from,
    { name: 'Run', text: runWords(chosen, source) },
    ...(source ? [{ name: 'Read', text: SOURCES[source] }] : []),
    ...(session ? [{ name: 'Session', text: sessionWords(session) }] : []),
    ...conditions,
  ];
  const more = remarks.filter((note) => !isSaid(note));
  return (
    <>
      {cellsRead(measurand) && (
        <Later>
          <ChosenGrid items={document.items} measurand={measurand} chosen={chosen} />
        </Later>
      )}
      <List>
        {lines.map(({ name, text }, i) => (
          <div key={i} style={{ display: 'contents' }}>
            <dt>{name}</dt>
            <dd>
              <bdi>{text}</bdi>
            </dd>
          </div>
        ))}
      </List>
      {more.length > 0 && (
        <Remarks aria-label="Noted">
          {more.map(({ id, text, photo }) => (
            <li key={id}>
              {photo !== null && <Photo file={photo} text={text} />}
              {text !== '' && <bdi>{text}</bdi>}
            </li>
          ))}
        </Remarks>
      )}
    </>
  );
}
