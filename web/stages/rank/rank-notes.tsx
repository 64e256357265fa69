import type { MeasurandAnalysis } from '../../../core/analysis/analyse-study.ts';
import { type PairMethodName, pairMethod } from '../../../core/compare/pairs.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { formatPlain, withUnit } from '../../../core/quantity/format.ts';
import { answer } from '../../../core/rank/answer.ts';
import { ChangeNote } from '../../app/change-note.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside } from '../../ui/page.tsx';

type MethodChoice = 'suited' | Extract<PairMethodName, 'rounds' | 'tamhane-t2' | 'games-howell'>;

const METHOD_OPTIONS = [
  { value: 'suited', label: 'What suits the readings' },
  { value: 'rounds', label: 'Rounds', help: 'needs every item in every round' },
  { value: 'tamhane-t2', label: 'Tamhane’s T2', help: 'each item its own spread' },
  { value: 'games-howell', label: 'Games–Howell', help: 'a little bolder' },
] as const;

export interface RankNotesProps {
  document: StudyDocument;
  analysis: MeasurandAnalysis | undefined;
  error: Error | null;
  method: PairMethodName | undefined;
  onMethod: (method: PairMethodName | undefined) => void;
}

/** The margin of the ranking: leads and ties in sentences, findings, the margin, how it was compared. */
export function RankNotes({ document, analysis, error, method, onMethod }: RankNotesProps) {
  const measurand = analysis?.measurand;
  const marginText =
    measurand &&
    (measurand.margin.kind === 'percent'
      ? `${formatPlain(measurand.margin.value)}\u202f% of the best mean`
      : withUnit(formatPlain(measurand.margin.value), measurand.unit));
  return (
    <>
      {error && (
        <Note tone="attention" title="This way of comparing does not apply">
          {error.message}
        </Note>
      )}
      {measurand &&
        measurand.direction.kind !== 'unranked' &&
        analysis.classes.flatMap((group) =>
          answer(
            group.items.map(({ name }) => name),
            group.analysis,
            measurand.unit,
            measurand.instrument.resolution,
          ).notes.map(({ tone, title, text }) => (
            <Note key={`${group.name}/${title}`} tone={tone} title={title}>
              {text}
            </Note>
          )),
        )}
      {analysis?.classes
        .flatMap((group) => group.analysis.findings)
        .map(({ kind, item, message, todo }) => (
          <Note key={`${kind}/${item ?? ''}`} tone="attention" title={message}>
            {todo}
          </Note>
        ))}
      <ChangeNote document={document} />
      {measurand && (
        <Aside>
          <h3>Margin</h3>
          <p>
            {measurand.margin.value === 0
              ? 'None is set: any lead that the readings support counts as one.'
              : `A difference under ${marginText ?? ''} does not matter.`}
          </p>
        </Aside>
      )}
      <Aside>
        <h3>Compared by</h3>
        <Choice<MethodChoice>
          label="Compared by"
          labelHidden
          value={(method ?? 'suited') as MethodChoice}
          options={METHOD_OPTIONS}
          onChange={(value) => {
            onMethod(value === 'suited' ? undefined : value);
          }}
        />
        {analysis?.classes.map((group) => (
          <p key={group.name} style={{ marginTop: 8 }}>
            {pairMethod(group.analysis.method).label}. {pairMethod(group.analysis.method).because}{' '}
            {group.analysis.notes.filter((note) => !note.includes('was not applied')).join(' ')}
          </p>
        ))}
        <p style={{ marginTop: 8 }}>
          All intervals hold at once, with 95 % confidence. Order of the runs from seed {document.study.seed}.
        </p>
      </Aside>
    </>
  );
}
