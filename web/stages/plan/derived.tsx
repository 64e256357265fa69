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
import { Button } from '../../ui/button.tsx';
import { Problem } from '../../ui/problem.tsx';
import { Segments } from '../../ui/segments.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
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

/** Adds a measurand that is worked out from others: its expression, its name, the unit that comes of it. */
export function NewDerived({ document }: { document: StudyDocument }) {
  const names = studyNames(document);
  const [text, setText] = useState<string>();
  const [name, setName] = useState('');
  const [typedUnit, setUnit] = useState<string>();
  const [better, setBetter] = useState<DirectionAsked>();
  const [problem, setProblem] = useState<string>();
  const written = text ?? '';
  // Whatever unit it comes to is proposed.
  const withoutUnit = readExpression(written, names);
  const proposed = 'problem' in withoutUnit ? '' : withoutUnit.unit;
  const unit = typedUnit ?? proposed;
  const read = readExpression(written, names, unit);
  const close = () => {
    setText(undefined);
    setName('');
    setUnit(undefined);
    setBetter(undefined);
    setProblem(undefined);
  };
  const add = async () => {
    if ('problem' in read) {
      setProblem(read.problem);
      return;
    }
    if (name.trim() === '') {
      setProblem('Give it a name.');
      return;
    }
    if (better === undefined) {
      setProblem('Say which is better: of a worked-out value nobody else can know.');
      return;
    }
    const position = Math.max(0, ...measurandsInOrder(document).map((other) => other.position)) + 1;
    try {
      await createPart(document.study.id, 'measurands', {
        ...newMeasurand(name.trim(), position),
        unit,
        direction: { kind: better, target: null },
        expression: written.trim(),
      });
      close();
    } catch (error) {
      setProblem(problemText(error));
    }
  };
  return (
    <>
      <Button
        tone="quiet"
        isDisabled={names.length === 0}
        onPress={() => {
          setText('');
        }}
      >
        <Sigma size={18} aria-hidden /> One worked out from others
      </Button>
      <Dialog title="A derived measurand" isOpen={text !== undefined} onClose={close}>
        <ExpressionBox
          label="Worked out as"
          value={written}
          names={names}
          problem={written.trim() === '' || !('problem' in read) ? undefined : problem}
          preview={
            'problem' in read
              ? written.trim() === ''
                ? 'Arithmetic over measurands, attributes and conditions; units are carried along.'
                : read.problem
              : previewOf(document, written, names, unit)
          }
          onChange={(next) => {
            setText(next);
            setProblem(undefined);
          }}
          onCommit={() => undefined}
          autoFocus
        />
        <TextField
          label="Name"
          value={name}
          maxLength={120}
          placeholder="Output per watt"
          onChange={(next) => {
            setName(next);
            setProblem(undefined);
          }}
          problem={problem !== undefined && name.trim() === '' ? problem : undefined}
          onEnter={() => void add()}
        />
        <TextField
          label="Told in"
          value={unit}
          maxLength={24}
          help="The unit that it comes to, or another that measures the same"
          onChange={setUnit}
          onEnter={() => void add()}
        />
        <Segments<DirectionAsked | 'ask'>
          label="Which is better"
          value={better ?? 'ask'}
          options={DIRECTIONS_ASKED}
          onChange={(next) => {
            if (next !== 'ask') setBetter(next);
            setProblem(undefined);
          }}
        />
        {problem !== undefined && name.trim() !== '' && better === undefined && <Problem>{problem}</Problem>}
        <DialogActions>
          <Button tone="quiet" onPress={close}>
            Not now
          </Button>
          <Button tone="go" onPress={() => void add()}>
            Add it
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
