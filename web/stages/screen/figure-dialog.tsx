import { useState } from 'react';
import type { StudySetting } from '../../../core/analysis/settings.ts';
import type { Figure, Item, Measurand } from '../../../core/model/parts.ts';
import { formatReading } from '../../../core/quantity/format.ts';
import { parseQuantity } from '../../../core/quantity/parse.ts';
import { parseRange } from '../../../core/quantity/parse-range.ts';
import { rangeWords } from '../../../core/summary/typed.ts';
import { problemText } from '../../app/api/client.ts';
import { type NewPart, createPart, patchPart } from '../../app/api/studies.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { Problem } from '../../ui/problem.tsx';
import { Segments } from '../../ui/segments.tsx';
import { Columns, Span } from '../../ui/span.tsx';
import { TextField } from '../../ui/text-field.tsx';

type Field = 'n' | 'mean' | 'sd' | 'ends' | 'range';
type Texts = Record<Field, string>;
type Known = Pick<Figure, 'kind' | 'n' | 'mean' | 'sd' | 'low' | 'high'>;

const plain = (value: number | null | undefined) => (value == null ? '' : formatReading(value));

/** The texts that say what a figure says. */
function textsOf(figure: Figure | undefined): Texts {
  if (!figure) return { n: '', mean: '', sd: '', ends: '', range: '' };
  const ends = figure.low === null && figure.high === null ? '' : rangeWords(figure);
  return figure.kind === 'range'
    ? { n: '', mean: '', sd: '', ends: '', range: ends }
    : { n: plain(figure.n), mean: plain(figure.mean), sd: plain(figure.sd), ends, range: '' };
}

/** What the texts of a summary say, or what is wrong with which. */
function summaryOf(texts: Texts, unit: string): Known | Partial<Texts> {
  const problems: Partial<Texts> = {};
  const number = (field: 'n' | 'mean' | 'sd', of: string): number | null => {
    if (texts[field].trim() === '') return null;
    const understood = parseQuantity(texts[field], of);
    if ('number' in understood) return understood.number;
    problems[field] = understood.problem;
    return null;
  };
  const [n, mean, sd] = [number('n', ''), number('mean', unit), number('sd', unit)];
  if (texts.n.trim() === '') problems.n = 'How many readings was it?';
  else if (n !== null && !(Number.isInteger(n) && n >= 1)) problems.n = 'This is a whole number, 1 or more.';
  if (texts.mean.trim() === '') problems.mean = 'What was their mean?';
  if (n !== null && n > 1 && texts.sd.trim() === '') problems.sd = 'What was their standard deviation?';
  if (sd !== null && sd < 0) problems.sd = 'This is 0 or more.';
  if (n === 1 && sd !== null) problems.sd = 'A single reading has none.';
  let ends: Pick<Figure, 'low' | 'high'> = { low: null, high: null };
  if (texts.ends.trim() !== '') {
    const understood = parseRange(texts.ends, unit);
    if ('problem' in understood) problems.ends = understood.problem;
    else ends = understood;
  }
  return Object.keys(problems).length > 0 ? problems : { kind: 'summary', n, mean, sd, ...ends };
}

function rangeOf(texts: Texts, unit: string): Known | Partial<Texts> {
  if (texts.range.trim() === '') return { range: 'What is known: “>8”, “1 to 1.6”, or one figure?' };
  const understood = parseRange(texts.range, unit);
  return 'problem' in understood
    ? { range: understood.problem }
    : { kind: 'range', n: null, mean: null, sd: null, ...understood };
}

export interface FigureDialogProps {
  measurand: Measurand;
  setting: StudySetting;
  /** Items that it may be of. */
  items: readonly Item[];
  /** The first that was not read, if there is one. */
  unread: Item | undefined;
  /** What is changed; undefined for a new one. */
  figure: Figure | undefined;
  onClose: () => void;
}

/** Types in what is known of an item from elsewhere: n, mean and SD, or a range. */
export function FigureDialog({ measurand, setting, items, unread, figure, onClose }: FigureDialogProps) {
  const { unit } = measurand;
  const [itemId, setItemId] = useState(figure?.itemId ?? (unread ?? items[0])?.id ?? '');
  const [kind, setKind] = useState<Figure['kind']>(figure?.kind ?? 'summary');
  const [texts, setTexts] = useState(() => textsOf(figure));
  const [source, setSource] = useState(figure?.source ?? '');
  const [problems, setProblems] = useState<Partial<Texts>>({});
  const [problem, setProblem] = useState<string>();
  const save = async () => {
    const known = kind === 'summary' ? summaryOf(texts, unit) : rangeOf(texts, unit);
    if (!('kind' in known)) {
      setProblems(known);
      return;
    }
    const fields = { ...known, source: source.trim() };
    try {
      if (figure) await patchPart('figures', figure, fields);
      else {
        const levels = setting.levels.map(({ id, factorId }) => ({ factorId, levelId: id }));
        const made: NewPart<'figures'> = { ...fields, itemId, measurandId: measurand.id, levels };
        await createPart(measurand.studyId, 'figures', made);
      }
      onClose();
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  const field = (name: Field, label: string, more: { placeholder?: string; help?: string } = {}) => (
    <TextField
      label={label}
      value={texts[name]}
      onChange={(text) => {
        setTexts({ ...texts, [name]: text });
        setProblems({ ...problems, [name]: undefined });
      }}
      problem={problems[name]}
      onEnter={() => void save()}
      {...more}
    />
  );
  const named = items.find(({ id }) => id === itemId);
  return (
    <Dialog
      title={`${measurand.name}, known from elsewhere${setting.words && ` at ${setting.words}`}`}
      isOpen
      onClose={onClose}
    >
      {figure ? (
        <p>
          <bdi>{named?.name}</bdi>
        </p>
      ) : (
        <Choice
          label="Item"
          value={itemId}
          options={items.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setItemId}
        />
      )}
      <Segments
        label="What is known"
        value={kind}
        options={[
          { value: 'summary', label: 'Mean and SD of readings' },
          { value: 'range', label: 'A range or a limit' },
        ]}
        onChange={setKind}
      />
      {kind === 'summary' ? (
        <Columns>
          <Span $columns={4}>{field('n', 'Readings')}</Span>
          <Span $columns={4}>{field('mean', `Mean${unit && ` in ${unit}`}`)}</Span>
          <Span $columns={4}>{field('sd', 'SD')}</Span>
          <Span $columns={12}>
            {field('ends', 'Smallest to largest reading, where known', { placeholder: '3.1 to 3.6' })}
          </Span>
        </Columns>
      ) : (
        field('range', `Range${unit && ` in ${unit}`}`, {
          placeholder: '>8, or 1 to 1.6',
          help: 'It is ranked by what it surely allows, and no further.',
        })
      )}
      <TextField
        label="Where it comes from"
        value={source}
        onChange={setSource}
        maxLength={300}
        placeholder="Notebook of last spring"
        onEnter={() => void save()}
      />
      <Problem>{problem}</Problem>
      <DialogActions>
        <Button tone="quiet" onPress={onClose}>
          Not now
        </Button>
        <Button tone="go" onPress={() => void save()}>
          {figure ? 'Change it' : 'Type it in'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
