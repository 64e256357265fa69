import { useState } from 'react';
import type { StudySetting } from '../../../core/analysis/settings.ts';
import { type FigureTexts, knownBy, textsOf } from '../../../core/summary/typed-text.ts';
import type { Figure, Item, Measurand } from '../../../core/model/parts.ts';
import { problemText } from '../../app/api/client.ts';
import { isTexts, useKept } from '../../app/kept.ts';
import { type NewPart, createPart, patchPart } from '../../app/api/studies.ts';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogAnswers } from '../../ui/dialog.tsx';
import { Problem } from '../../ui/problem.tsx';
import { Segments } from '../../ui/segments.tsx';
import { Columns, Span } from '../../ui/span.tsx';
import { TextField } from '../../ui/text-field.tsx';

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

type TypedFigure = FigureTexts & { source: string };

const isTyped = (value: unknown): value is TypedFigure =>
  isTexts(value) && ['source', ...Object.keys(textsOf(undefined))].every((name) => name in value);

/** What is typed in the dialog, and what keeps it. */
function useFigureFields({ measurand, setting, items, unread, figure, onClose }: FigureDialogProps) {
  const [itemId, setItemId] = useState(figure?.itemId ?? (unread ?? items[0])?.id ?? '');
  const [kind, setKind] = useState<Figure['kind']>(figure?.kind ?? 'summary');
  // What is typed stays with its measurand, or the figure that is changed, until it is used.
  const [typed, keepTyped, forget] = useKept<TypedFigure>(
    `figure/${figure?.id ?? measurand.id}`,
    () => ({ ...textsOf(figure), source: figure?.source ?? '' }),
    isTyped,
  );
  const { source, ...texts } = typed;
  const [problems, setProblems] = useState<Partial<FigureTexts>>({});
  const [problem, setProblem] = useState<string>();
  const save = async () => {
    const understood = knownBy(kind, texts, measurand.unit);
    if ('problems' in understood) {
      setProblems(understood.problems);
      return;
    }
    const fields = { ...understood.known, source: source.trim() };
    try {
      if (figure) await patchPart('figures', figure, fields);
      else {
        const levels = setting.levels.map(({ id, factorId }) => ({ factorId, levelId: id }));
        const made: NewPart<'figures'> = { ...fields, itemId, measurandId: measurand.id, levels };
        await createPart(measurand.studyId, 'figures', made);
      }
      forget();
      onClose();
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  const type = (name: keyof TypedFigure, text: string) => {
    keepTyped((before) => ({ ...before, [name]: text }));
    setProblems({ ...problems, [name]: undefined });
  };
  return { itemId, setItemId, kind, setKind, texts, type, source, problems, problem, save };
}

/** What is known: of readings, or as a range. */
function Known({ fields, unit }: { fields: ReturnType<typeof useFigureFields>; unit: string }) {
  const field = (
    name: keyof FigureTexts,
    label: string,
    more: { placeholder?: string; help?: string } = {},
  ) => (
    <TextField
      label={label}
      value={fields.texts[name]}
      onChange={(text) => {
        fields.type(name, text);
      }}
      problem={fields.problems[name]}
      onEnter={() => void fields.save()}
      {...more}
    />
  );
  return fields.kind === 'summary' ? (
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
  );
}

/** Types in what is known of an item from elsewhere: n, mean and SD, or a range. */
export function FigureDialog(props: FigureDialogProps) {
  const { measurand, setting, items, figure, onClose } = props;
  const { unit } = measurand;
  const fields = useFigureFields(props);
  const { itemId, kind, save } = fields;
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
          onChange={fields.setItemId}
        />
      )}
      <Segments
        label="What is known"
        value={kind}
        options={[
          { value: 'summary', label: 'Mean and SD of readings' },
          { value: 'range', label: 'A range or a limit' },
        ]}
        onChange={fields.setKind}
      />
      <Known fields={fields} unit={unit} />
      <TextField
        label="Where it comes from"
        value={fields.source}
        onChange={(text) => {
          fields.type('source', text);
        }}
        maxLength={300}
        placeholder="Notebook of last spring"
        onEnter={() => void save()}
      />
      <Problem>{fields.problem}</Problem>
      <DialogAnswers onNo={onClose} go={figure ? 'Change it' : 'Type it in'} onGo={() => void save()} />
    </Dialog>
  );
}
