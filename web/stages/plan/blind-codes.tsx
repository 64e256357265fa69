import styled from 'styled-components';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { counted } from '../../../core/quantity/format.ts';
import { blindCodes } from '../../../core/plan/blind.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { Button } from '../../ui/button.tsx';
import { ItemName } from '../../ui/name.tsx';
import { tell } from '../../app/tell.ts';
import { dayAndTime } from '../../ui/when.ts';

const Codes = styled.dl`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 4px 28px;
  max-width: 860px;
  margin: 10px 0 16px;
  div {
    display: flex;
    justify-content: space-between;
    border-bottom: 1px solid var(--rule);
    padding: 6px 0;
  }
  dd {
    font-family: var(--typed);
    font-weight: 640;
  }
`;

/** Offers codes in place of names. */
function OfferCodes({ document }: { document: StudyDocument }) {
  return (
    <>
      <p style={{ maxWidth: '68ch', marginBottom: 12 }}>
        Where a judge could favour an item, let somebody else put codes on the samples. Bench, screening and
        ranking then know the codes only, until you open them.
      </p>
      <Button
        isDisabled={document.items.length < 2}
        onPress={() => {
          tell(patchStudy(document.study, { blind: 'blind' }));
        }}
      >
        Use codes
      </Button>
    </>
  );
}

/** Codes in place of names at the bench, so that nobody favours an item; opening them is written down. */
export function BlindCodes({ document }: { document: StudyDocument }) {
  const { study, changes } = document;
  const codes = blindCodes(document);
  const opened = changes.findLast(({ field, after }) => field === 'blind' && after === '"opened"');
  if (study.blind === 'no') return <OfferCodes document={document} />;
  return (
    <>
      <p style={{ maxWidth: '68ch' }}>
        {study.blind === 'blind'
          ? 'Put these on the samples. Whoever takes the readings should not look here.'
          : `The codes were opened${opened ? ` on ${dayAndTime(opened.changedAt)}, with ${counted(opened.readingsThen, 'reading')} taken` : ''}.`}
      </p>
      <Codes>
        {itemsInOrder(document).map(({ id, name, mark }) => (
          <div key={id}>
            <dt>
              <ItemName name={name} mark={mark} size={14} />
            </dt>
            <dd>{codes.get(id)}</dd>
          </div>
        ))}
      </Codes>
      {study.blind === 'blind' && (
        <>
          <Button
            tone="go"
            onPress={() => {
              tell(patchStudy(study, { blind: 'opened' }));
            }}
          >
            Open the codes
          </Button>{' '}
          {document.readings.length === 0 && (
            <Button
              tone="quiet"
              onPress={() => {
                tell(patchStudy(study, { blind: 'no' }));
              }}
            >
              Give them up
            </Button>
          )}
        </>
      )}
    </>
  );
}
