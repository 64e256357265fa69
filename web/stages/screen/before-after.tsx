import { useMemo } from 'react';
import styled from 'styled-components';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import {
  type ItemChange,
  type TriedAction,
  asIfDecided,
  changesBetween,
} from '../../../core/analysis/tried.ts';
import { counted, wordFor } from '../../../core/quantity/format.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { useAnalysis } from '../../app/api/analysis.ts';
import { settingFigures } from '../../strip/lanes.ts';
import { FigureHead, Table } from '../../ui/table.tsx';

const Frame = styled.div<{ $brief?: boolean }>`
  margin: 8px 0 8px ${({ $brief }) => ($brief ? 17 : 0)}px;
  font-size: var(--size-13);
  table {
    font-size: inherit;
  }
`;

const Was = styled.del`
  display: block;
  color: var(--quiet);
`;

/** More rows than this are counted. */
const MOST_ROWS = 6;

/** What a figure becomes; as it is where it stays. */
export function Becomes({ before, after }: { before: string; after: string }) {
  if (before === after) return <>{before}</>;
  return (
    <>
      <Was>{before}</Was>
      {after}
    </>
  );
}

function Row({
  change: { item, before, after },
  analysis,
}: {
  change: ItemChange;
  analysis: SettingAnalysis;
}) {
  const { result, spread } = settingFigures(analysis);
  return (
    <tr>
      <th scope="row">
        <bdi>{item.name}</bdi>
      </th>
      <td className="figure">
        <Becomes before={String(before.n)} after={String(after.n)} />
      </td>
      <td className="figure">
        <Becomes before={result(before.mean)} after={result(after.mean)} />
      </td>
      <td className="figure">
        <Becomes before={spread(before.sd)} after={spread(after.sd)} />
      </td>
      <td className="figure">
        <Becomes before={before.places} after={after.places} />
      </td>
    </tr>
  );
}

/** The figures that become others, in words: the places of items that stay as they were are counted. */
function Words({ changes, analysis }: { changes: readonly ItemChange[]; analysis: SettingAnalysis }) {
  const { result, spread } = settingFigures(analysis);
  const moved = changes.filter(({ before, after }) => before.n !== after.n || before.mean !== after.mean);
  const others = changes.length - moved.length;
  return (
    <ul>
      {moved.slice(0, MOST_ROWS).map(({ item, before, after }) => (
        <li key={item.id}>
          <bdi>{item.name}</bdi>: mean {result(before.mean)} → {result(after.mean)}, SD {spread(before.sd)} →{' '}
          {spread(after.sd)}, n {before.n} → {after.n}
          {before.places !== after.places && `, place ${before.places} → ${after.places}`}
        </li>
      ))}
      {moved.length > MOST_ROWS && <li>{counted(moved.length - MOST_ROWS, 'more item')}</li>}
      {others > 0 && (
        <li>The places of {counted(others, moved.length > 0 ? 'other item' : 'item')} change too.</li>
      )}
    </ul>
  );
}

/** The items that change most. */
function ChangeTable({
  caption,
  changes,
  analysis,
}: {
  caption: string;
  changes: ReturnType<typeof changesBetween>;
  analysis: SettingAnalysis;
}) {
  return (
    <Table>
      <caption>{caption}</caption>
      <thead>
        <tr>
          <th scope="col">Item</th>
          <FigureHead>n</FigureHead>
          <FigureHead>mean</FigureHead>
          <FigureHead>SD</FigureHead>
          <FigureHead>place</FigureHead>
        </tr>
      </thead>
      <tbody>
        {changes.slice(0, MOST_ROWS).map((change) => (
          <Row key={change.item.id} change={change} analysis={analysis} />
        ))}
      </tbody>
    </Table>
  );
}

/** What a decision about readings would change, before it is made: the whole way is gone again with it. */
export function BeforeAfter({
  document,
  analysis,
  settingKey,
  readingIds,
  action,
  brief = false,
}: {
  document: StudyDocument;
  analysis: SettingAnalysis;
  settingKey: string | undefined;
  readingIds: readonly string[];
  action: TriedAction;
  /** In words, where there is no room for a table. */
  brief?: boolean;
}) {
  const wanted = readingIds.join(' ');
  const tried = useMemo(() => asIfDecided(document, wanted.split(' '), action), [document, wanted, action]);
  const { data: after, isPlaceholderData } = useAnalysis(tried, analysis.measurand.id, settingKey, {
    resamples: 0,
  });
  const decided = { 'leave-out': 'Without', 'take-back': 'With', keep: 'With' }[action];
  const them = wordFor(readingIds.length, 'it', 'them');
  if (!after || isPlaceholderData) return <Frame role="status">Trying what would change…</Frame>;
  const changes = changesBetween(analysis, after);
  if (changes.length === 0)
    return (
      <Frame>
        {decided} {them} nothing would change.
      </Frame>
    );
  if (brief)
    return (
      <Frame $brief>
        <b>
          {decided} {them}
        </b>
        <Words changes={changes} analysis={analysis} />
      </Frame>
    );
  return (
    <Frame>
      <ChangeTable caption={`${decided} ${them}`} changes={changes} analysis={analysis} />
      {changes.some(({ before, after }) => before.places !== after.places) && (
        <p>A reading is left out or kept for what went wrong with it, not for the places that come of it.</p>
      )}
      {changes.length > MOST_ROWS && <p>And {changes.length - MOST_ROWS} more items.</p>}
    </Frame>
  );
}
