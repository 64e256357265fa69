import { Note } from '../../ui/note.tsx';
import { Section } from '../../ui/page.tsx';
import { AgreementSection } from './agreement.tsx';
import { ReferenceRate, type ReferenceRateProps } from './reference-rate.tsx';

/** How the readings of a measurand agree with what a trusted instrument said beside them. */
export function AgainstReference(props: ReferenceRateProps) {
  const { document, measurand, agreement, items } = props;
  return (
    <Section aria-labelledby="agreement">
      <h2 id="agreement">Error against the reference</h2>
      <AgreementSection agreement={agreement} measurand={measurand} items={items} />
      <ReferenceRate {...props} />
      {document.study.hazards.includes('body') && (
        <Note tone="attention" title="No basis for treatment">
          This compares instruments. It says nothing about anybody’s health, and no treatment may rest on it;
          that is for those who are licensed to advise.
        </Note>
      )}
    </Section>
  );
}
