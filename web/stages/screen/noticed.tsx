import styled from 'styled-components';
import { counted } from '../../../core/quantity/format.ts';
import { Finding } from '../../app/findings.tsx';
import { Section } from '../../ui/page.tsx';
import { NARROW } from '../../ui/tokens.ts';
import type { LeavingOut } from './leaving-out.tsx';
import type { Shown } from './shown.ts';

const Findings = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  gap: 18px 28px;
  margin-bottom: 8px;
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
  }
`;

interface NoticedProps {
  shown: Shown;
  onShow: (id: string) => void;
  onLeaveOut: LeavingOut['ask'];
}

/** What was noticed in the readings; first what is not answered yet. */
export function Noticed({ shown: { view, findings }, onShow, onLeaveOut }: NoticedProps) {
  const { document, measurand } = view;
  const here = findings.filter(({ measurandId }) => measurandId === null || measurandId === measurand.id);
  const answered = new Set(document.study.answers.map(({ finding }) => finding));
  const open = here.filter(({ id }) => !answered.has(id));
  const elsewhere = findings.filter((finding) => !here.includes(finding) && !answered.has(finding.id)).length;
  if (here.length === 0 && elsewhere === 0) return null;
  return (
    <Section aria-labelledby="findings">
      <h2 id="findings">
        {open.length > 0
          ? `${counted(open.length, 'thing')} to look at`
          : here.length > 0
            ? 'Looked at'
            : 'Elsewhere in the study'}
      </h2>
      <Findings>
        {[...open, ...here.filter(({ id }) => answered.has(id))].map((finding) => (
          <Finding
            key={finding.id}
            document={document}
            finding={finding}
            onShow={onShow}
            onLeaveOut={onLeaveOut}
          />
        ))}
      </Findings>
      {elsewhere > 0 && <p>{counted(elsewhere, 'thing')} to look at in other measurands.</p>}
    </Section>
  );
}
