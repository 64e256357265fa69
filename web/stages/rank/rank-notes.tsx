import type { ClassAnalysis, SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { PairMethodName } from '../../../core/compare/method-names.ts';
import { DESCRIBED_METHODS, describedMethod } from '../../../core/compare/described.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { listed } from '../../../core/quantity/format.ts';
import { answer } from '../../../core/report/answer.ts';
import { MethodLink } from '../../app/method-link.tsx';
import { ChangeNote } from '../../app/change-note.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside } from '../../ui/page.tsx';
import { confidence, marginSentence } from './words.ts';

type MethodChoice = 'suited' | PairMethodName;

export interface RankNotesProps {
  document: StudyDocument;
  analysis: SettingAnalysis | undefined;
  error: Error | null;
  method: PairMethodName | undefined;
  onMethod: (method: PairMethodName | undefined) => void;
}

/** How the items of each class were compared, in words: what is the same of several is said once. */
function comparisonsOf(classes: readonly ClassAnalysis[], assumed: boolean) {
  const said = new Map<string, { names: string[]; by: PairMethodName }>();
  for (const { name, analysis } of classes) {
    const { label, because, assumes } = describedMethod(analysis.method);
    const remarks = analysis.remarks.filter(({ about }) => about === 'comparison' || about === 'means');
    const text = [`${label}.`, because, assumed && assumes, ...remarks.map((remark) => remark.text)]
      .filter(Boolean)
      .join(' ');
    const known = said.get(text) ?? { names: [], by: analysis.method };
    said.set(text, { ...known, names: [...known.names, name] });
  }
  return said;
}

/** How the pairs were compared, and the other ways that there are, each with what it takes for granted. */
function ComparedBy({ document, analysis, method, onMethod }: Omit<RankNotesProps, 'error'>) {
  const marks = analysis?.classes.some((group) => describedMethod(group.analysis.method).ranksOnly) ?? false;
  const offered = DESCRIBED_METHODS.filter(({ ranksOnly }) => (ranksOnly ?? false) === marks);
  const exact = analysis?.classes.some((group) => group.analysis.exact) ?? false;
  const comparisons = comparisonsOf(analysis?.classes ?? [], method !== undefined);
  if (exact) {
    return (
      <Aside>
        <h3>Compared as figures</h3>
        <p>
          They follow from attributes alone, so they are exact as far as these are: no readings, no spread.
        </p>
      </Aside>
    );
  }
  return (
    <Aside>
      <h3>Compared by</h3>
      <Choice<MethodChoice>
        label="Compared by"
        labelHidden
        value={method ?? 'suited'}
        options={[
          { value: 'suited' as const, label: 'What suits the readings' },
          ...offered.map(({ name, label, assumes }) => ({ value: name, label, help: assumes })),
        ]}
        onChange={(value) => {
          onMethod(value === 'suited' ? undefined : value);
        }}
      />
      {[...comparisons].map(([text, { names, by }]) => (
        <p key={text} style={{ marginTop: 8 }}>
          {comparisons.size > 1 && <b>{listed(names.map((name) => name || 'Without a class'))}: </b>}
          {text} <MethodLink name={by} />
        </p>
      ))}
      <p style={{ marginTop: 8 }}>
        {marks
          ? 'All comparisons hold at once: nobody is called ahead by chance in more than one study of twenty.'
          : `All intervals of differences hold at once, with ${confidence(analysis?.classes[0]?.analysis.pairAlpha)} confidence${analysis?.setting.words ? ` at ${analysis.setting.words}: the settings share the chance of an error` : ''}.`}{' '}
        Order of the runs from seed {document.study.seed}.
      </p>
    </Aside>
  );
}

/** The margin of the ranking: leads and ties in sentences, findings, the margin, how it was compared. */
export function RankNotes({ document, analysis, error, method, onMethod }: RankNotesProps) {
  const measurand = analysis?.measurand;
  const ranked = analysis !== undefined && measurand?.direction.kind !== 'unranked';
  return (
    <>
      {error && (
        <Note tone="attention" title="This way of comparing does not apply">
          {error.message}
        </Note>
      )}
      {analysis?.classes
        .flatMap((group) => group.analysis.findings)
        .map(({ kind, item, message, why, todo }) => (
          <Note key={`${kind}/${item ?? ''}`} tone="attention" title={message}>
            {why} {todo}
          </Note>
        ))}
      {ranked &&
        analysis.classes.flatMap((group) =>
          answer(
            group.items.map(({ name }) => name),
            group.analysis,
            analysis.measurand.unit,
          ).notes.map(({ tone, title, text }) => (
            <Note key={`${group.name}/${title}`} tone={tone} title={title}>
              {text}
            </Note>
          )),
        )}
      <ChangeNote document={document} asking />
      {measurand && (
        <Aside>
          <h3>Margin</h3>
          <p>
            {marginSentence(
              measurand,
              analysis.classes.some((group) => group.analysis.ranksOnly),
            )}
          </p>
        </Aside>
      )}
      <ComparedBy document={document} analysis={analysis} method={method} onMethod={onMethod} />
    </>
  );
}
