import { useMemo } from 'react';
import styled from 'styled-components';
import { cellMaps } from '../../../core/analysis/cell-maps.ts';
import { type ReadingDetails, readingDetails } from '../../../core/analysis/reading-details.ts';
import type { Measurand, NotePart, Reading } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Observation } from '../../../core/observations/observation.ts';
import { Photo } from '../../app/photo.tsx';
import { CellsPicture } from '../../strip/cells-picture.tsx';
import { dayAndTime } from '../../ui/when.ts';

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

const Grid = styled.div`
  margin-top: 10px;
  padding-left: 17px;
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
  const grid = useMemo(
    () =>
      cellMaps(
        // As it was read, whether it counts or not.
        { measurand, readings: [{ ...chosen, use: { is: 'kept' } }] },
        document.items,
      ),
    [document.items, measurand, chosen],
  );
  const more = remarks.filter((note) => !isSaid(note));
  return (
    <>
      {grid && (
        <Grid>
          <CellsPicture
            label="What was read"
            cells={grid}
            view="amount"
            caption={grid.unit && `What was read, in ${grid.unit}.`}
          />
        </Grid>
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
