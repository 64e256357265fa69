import { Sigma } from 'lucide-react';
import { useState } from 'react';
import { readExpression } from '../../../core/expression/expression.ts';
import { type StudyName, studyNames } from '../../../core/expression/names.ts';
import { derivedExpression } from '../../../core/expression/derived.ts';
import { readingValue } from '../../../core/forms/index.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import { measurandsInOrder } from '../../../core/model/in-order.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { newMeasurand } from '../../../core/plan/new-parts.ts';
import { formatPlain, listed, withUnit } from '../../../core/quantity/format.ts';
import { problemText } from '../../app/api/client.ts';
import { createPart } from '../../app/api/studies.ts';
import { useDraft } from '../../app/draft.ts';
import { ExpressionBox } from '../../app/expression-box.tsx';
import { isRecord, isText, useKept } from '../../app/kept.ts';
import { Button } from '../../ui/button.tsx';
import { Problem } from '../../ui/problem.tsx';
import { Segments } from '../../ui/segments.tsx';
import { Dialog, DialogAnswers } from '../../ui/dialog.tsx';
import { TextField } from '../../ui/text-field.tsx';

/** A value for each name to try an expression on: the latest that there is, else 1, and whether all are real. */
function sampleValues(document: StudyDocument, names: readonly StudyName[]) {
  const values = new Map<string, number>();
  let real = true;
  for (const { identifier, kind, id } of names) {
    const measurand = document.measurands.find((candidate) => candidate.id === id);
    const reading = document.readings.findLast(({ measurandId }) => measurandId === id);
    const found =
      kind === 'measurand' && measurand && reading
        ? readingValue(reading, measurand)
        : kind === 'attribute'
          ? document.items
              .flatMap(({ attributes }) => attributes)
              .find(({ name, value }) => name === id && value !== null)?.value
          : undefined;
    if (found === undefined || found === null) real = false;
    values.set(identifier, found ?? 1);
  }
  return { values, real };
}

const figure = (number: number) => formatPlain(Number(number.toPrecision(4)));

/** What an expression comes to on sample values, in a sentence. */
function previewOf(
  document: StudyDocument,
  text: string,
  names: readonly StudyName[],
  unit: string,
): string | undefined {
  const read = readExpression(text, names, unit);
  if ('problem' in read) return undefined;
  const { values, real } = sampleValues(document, read.uses);
  const worked = read.work(values);
  if ('problem' in worked) return worked.problem;
  const samples = read.uses.map(
    ({ identifier, unit: unitOf }) =>
      `${identifier} = ${withUnit(figure(values.get(identifier) ?? 1), unitOf)}`,
  );
  return `= ${withUnit(figure(worked.number), unit)}${samples.length > 0 ? ` with ${listed(samples)}${real ? '' : ' (made up, where nothing is known yet)'}` : ''}`;
}

/** The expression of a derived measurand; it saves itself when it is left. */
export function SavedExpression({
  document,
  measurand,
  save,
}: {
  document: StudyDocument;
  measurand: Measurand;
  save: (text: string) => Promise<unknown>;
}) {
  const names = studyNames(document).filter(({ id }) => id !== measurand.id);
  const draft = useDraft({
    saved: measurand.expression ?? '',
    toText: (text: string) => text,
    parse: (text) => {
      const read = derivedExpression(document, { ...measurand, expression: text });
      return 'problem' in read ? read : { value: text.trim() };
    },
    save,
  });
  return (
    <div style={{ flex: 1 }}>
      <ExpressionBox
        label="Worked out as"
        value={draft.text}
        names={names}
        problem={draft.theirs === undefined ? draft.problem : `Changed somewhere else to “${draft.theirs}”.`}
        preview={previewOf(document, draft.text, names, measurand.unit)}
        onChange={draft.change}
        onCommit={draft.commit}
      />
    </div>
  );
}

type DirectionAsked = 'higher' | 'lower' | 'unranked';

const DIRECTIONS_ASKED = [
  { value: 'higher', label: 'Higher' },
  { value: 'lower', label: 'Lower' },
  { value: 'unranked', label: 'Not ranked' },
] as const;

/** A derived measurand as it is being typed; `unit` is what it comes to until another is typed. */
interface DerivedDraft {
  text: string;
  name: string;
  unit: string | undefined;
  better: DirectionAsked | undefined;
}

const EMPTY_DRAFT: DerivedDraft = { text: '', name: '', unit: undefined, better: undefined };

const isDraft = (value: unknown): value is DerivedDraft =>
  isRecord(value) &&
  [value.text, value.name, value.unit ?? ''].every(isText) &&
  (value.better === undefined || DIRECTIONS_ASKED.some((asked) => asked.value === value.better));

/** What was typed as an expression, in the unit that was typed or the one that it comes to. */
function readDraft({ text, unit: typed }: DerivedDraft, names: readonly StudyName[]) {
  const withoutUnit = readExpression(text, names);
  const unit = typed ?? ('problem' in withoutUnit ? '' : withoutUnit.unit);
  return { unit, read: readExpression(text, names, unit) };
}

/** What is missing of a draft, and at which field; undefined where nothing is. */
function missingOf({ name, better }: DerivedDraft, read: ReturnType<typeof readExpression>) {
  if ('problem' in read) return { field: 'text', words: read.problem } as const;
  if (name.trim() === '') return { field: 'name', words: 'Give it a name.' } as const;
  return better === undefined
    ? ({
        field: 'better',
        words: 'Say which is better: of a worked-out value nobody else can know.',
      } as const)
    : undefined;
}

type DerivedField = 'text' | 'name' | 'better';

/** A derived measurand as it is typed, what is wrong with it, and what adds it. */
function useDerivedDraft(document: StudyDocument, names: readonly StudyName[], onDone: () => void) {
  // What is typed stays until it is added.
  const [draft, changeDraft, forget] = useKept(`derived/${document.study.id}`, () => EMPTY_DRAFT, isDraft);
  const [problem, setProblem] = useState<{ field: DerivedField; words: string }>();
  const { unit, read } = readDraft(draft, names);
  const change = (changes: Partial<DerivedDraft>) => {
    changeDraft((before) => ({ ...before, ...changes }));
    setProblem(undefined);
  };
  const wordsAt = (field: DerivedField) => (problem?.field === field ? problem.words : undefined);
  const add = async () => {
    const missing = missingOf(draft, read);
    if (missing) {
      setProblem(missing);
      return;
    }
    const position = Math.max(0, ...measurandsInOrder(document).map((other) => other.position)) + 1;
    try {
      await createPart(document.study.id, 'measurands', {
        ...newMeasurand(draft.name.trim(), position),
        unit,
        direction: { kind: draft.better ?? 'unranked', target: null },
        expression: draft.text.trim(),
      });
      forget();
      onDone();
    } catch (error) {
      setProblem({ field: 'name', words: problemText(error) });
    }
  };
  return { draft, unit, read, change, wordsAt, add };
}

/** What an expression comes to, or what is wrong with it; while there is none, what it may be made of. */
function previewWords(
  document: StudyDocument,
  names: readonly StudyName[],
  { draft, unit, read }: Pick<ReturnType<typeof useDerivedDraft>, 'draft' | 'unit' | 'read'>,
) {
  if (draft.text.trim() === '')
    return 'Arithmetic over measurands, attributes and conditions; units are carried along.';
  return 'problem' in read ? read.problem : previewOf(document, draft.text, names, unit);
}

/** The fields of a measurand that is worked out from others: its expression, its name, the unit that comes of it. */
function DerivedFields({
  document,
  names,
  onDone,
}: {
  document: StudyDocument;
  names: readonly StudyName[];
  onDone: () => void;
}) {
  const typed = useDerivedDraft(document, names, onDone);
  const { draft, unit, change, wordsAt, add } = typed;
  return (
    <>
      <ExpressionBox
        label="Worked out as"
        value={draft.text}
        names={names}
        problem={wordsAt('text')}
        preview={previewWords(document, names, typed)}
        onChange={(text) => {
          change({ text });
        }}
        onCommit={() => undefined}
        autoFocus
      />
      <TextField
        label="Name"
        value={draft.name}
        maxLength={120}
        placeholder="Output per watt"
        onChange={(name) => {
          change({ name });
        }}
        problem={wordsAt('name')}
        onEnter={() => void add()}
      />
      <TextField
        label="Unit"
        value={unit}
        maxLength={24}
        help="The unit that it comes to, or another that measures the same"
        onChange={(next) => {
          change({ unit: next });
        }}
        onEnter={() => void add()}
      />
      <Segments<DirectionAsked | 'ask'>
        label="Which is better"
        value={draft.better ?? 'ask'}
        options={DIRECTIONS_ASKED}
        onChange={(next) => {
          if (next !== 'ask') change({ better: next });
        }}
      />
      <Problem>{wordsAt('better')}</Problem>
      <DialogAnswers onNo={onDone} go="Add it" onGo={() => void add()} />
    </>
  );
}

/** Adds a measurand that is worked out from others. */
export function NewDerived({ document }: { document: StudyDocument }) {
  const names = studyNames(document);
  const [adding, setAdding] = useState(false);
  const close = () => {
    setAdding(false);
  };
  return (
    <>
      <Button
        tone="quiet"
        isDisabled={names.length === 0}
        onPress={() => {
          setAdding(true);
        }}
      >
        <Sigma size={18} aria-hidden /> One worked out from others
      </Button>
      <Dialog title="A derived measurand" isOpen={adding} onClose={close}>
        <DerivedFields document={document} names={names} onDone={close} />
      </Dialog>
    </>
  );
}
