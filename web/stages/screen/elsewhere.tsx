import { lazy, useState, memo } from 'react';
import { Plus, Trash2 } from 'lucide-react';
import styled from 'styled-components';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { groupsOf } from '../../../core/analysis/at-setting.ts';
import { typedAt, typedOf } from '../../../core/analysis/typed-figures.ts';
import { takesFigures } from '../../../core/forms/index.ts';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { Figure, Item, Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted, formatReading, withUnit } from '../../../core/quantity/format.ts';
import { rangeWords } from '../../../core/summary/typed.ts';
import { createPart, deletePart } from '../../app/api/studies.ts';
import { tellDone, tellFailure } from '../../app/tell.ts';
import { Button } from '../../ui/button.tsx';
import { Fold } from '../../ui/fold.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { ItemHead } from '../../ui/name.tsx';
import { Scroll, Table } from '../../ui/table.tsx';
import { Later } from '../../ui/later.tsx';

// Most studies never open it.
const FigureDialog = lazy(async () => ({ default: (await import('./figure-dialog.tsx')).FigureDialog }));

const Words = styled.p`
  max-width: 72ch;
  margin-bottom: 10px;
  color: var(--quiet);
`;

const Add = styled(Button)`
  margin-top: 12px;
`;

const Actions = styled.td`
  display: flex;
  align-items: center;
  justify-content: flex-end;
`;

/** What a figure says, in words. */
function figureWords(figure: Figure, unit: string): string {
  const typed = typedOf(figure);
  if (typed.kind === 'range') return rangeWords(typed, unit);
  const spread = typed.sd === null ? '' : `, SD ${formatReading(typed.sd)}`;
  const ends = typed.low === null && typed.high === null ? '' : `, readings ${rangeWords(typed)}`;
  return `mean ${withUnit(formatReading(typed.mean), unit)} of ${counted(typed.n, 'reading')}${spread}${ends}`;
}

function removeFigure(figure: Figure): void {
  const { id: _id, studyId, version: _version, createdAt: _created, updatedAt: _updated, ...fields } = figure;
  deletePart('figures', figure)
    .then(() => {
      tellDone('The figure is taken out.', () => createPart(studyId, 'figures', fields));
    })
    .catch(tellFailure);
}

/** An item and what is known of it. */
interface KnownItem {
  item: Item;
  figure: Figure;
}

/** Changes what is known of an item, or takes it out. */
function KnownActions({ item, figure, onEdit }: KnownItem & { onEdit: (figure: Figure) => void }) {
  return (
    <Actions>
      <Button
        size="small"
        tone="quiet"
        aria-label={`Change what is known of ${item.name}`}
        onPress={() => {
          onEdit(figure);
        }}
      >
        Change
      </Button>
      <IconButton
        label={`Take out what is known of ${item.name}`}
        onPress={() => {
          removeFigure(figure);
        }}
      >
        <Trash2 size={18} aria-hidden />
      </IconButton>
    </Actions>
  );
}

function KnownTable({
  shown,
  unit,
  read,
  onEdit,
}: {
  shown: readonly KnownItem[];
  unit: string;
  /** Ids of items that were read here. */
  read: ReadonlySet<string>;
  onEdit: (figure: Figure) => void;
}) {
  return (
    <Scroll aria-label="Known from elsewhere">
      <Table>
        <thead>
          <tr>
            <th scope="col">Item</th>
            <th scope="col">What is known</th>
            <th scope="col">Source</th>
            <th scope="col">
              <span hidden>change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map(({ item, figure }) => (
            <tr key={figure.id}>
              <ItemHead name={item.name} mark={item.mark} />
              <td>
                {figureWords(figure, unit)}
                {read.has(item.id) && <small> – its readings count in its place</small>}
              </td>
              <td>
                <bdi>{figure.source || 'not said'}</bdi>
              </td>
              <KnownActions item={item} figure={figure} onEdit={onEdit} />
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

/** Ids of the items at a setting that were read here. */
const readHere = (analysis: SettingAnalysis): Set<string> =>
  new Set(
    groupsOf(analysis).flatMap(({ items, analysis: { items: analysed } }) =>
      items.filter((_, i) => (analysed[i]?.summary.n ?? 0) > 0 && !analysed[i]?.typed).map(({ id }) => id),
    ),
  );

/** What is known of items from elsewhere at a setting: an old notebook, a maker's sheet. */
export const Elsewhere = memo(function Elsewhere({
  document,
  measurand,
  analysis,
}: {
  document: StudyDocument;
  measurand: Measurand;
  analysis: SettingAnalysis;
}) {
  const { setting } = analysis;
  const [edited, setEdited] = useState<Figure | 'new'>();
  const figures = typedAt(document, measurand.id, setting.key);
  if (!takesFigures(measurand)) return null;
  const items = itemsInOrder(document);
  const shown = items.flatMap((item) => {
    const figure = figures.get(item.id);
    return figure ? [{ item, figure }] : [];
  });
  const read = readHere(analysis);
  return (
    <Fold
      title="Known from elsewhere"
      state={
        shown.length === 0
          ? 'Nothing: every item is known by its readings.'
          : `${counted(shown.length, 'item')}, typed in.`
      }
    >
      <Words>
        Where an item was not read here, a mean with its SD from an old notebook, or a range such as “more
        than 8”, can stand in for it. It is ranked with the others and marked, and readings taken here replace
        it.
      </Words>
      {shown.length > 0 && <KnownTable shown={shown} unit={measurand.unit} read={read} onEdit={setEdited} />}
      <Add
        size="small"
        onPress={() => {
          setEdited('new');
        }}
      >
        <Plus size={18} aria-hidden /> Type a figure in
      </Add>
      {edited && (
        <Later>
          <FigureDialog
            measurand={measurand}
            setting={setting}
            items={edited === 'new' ? items.filter(({ id }) => !figures.has(id)) : items}
            unread={items.find(({ id }) => !read.has(id) && !figures.has(id))}
            figure={edited === 'new' ? undefined : edited}
            onClose={() => {
              setEdited(undefined);
            }}
          />
        </Later>
      )}
    </Fold>
  );
});
