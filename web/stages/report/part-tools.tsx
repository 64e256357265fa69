import { ArrowDown, ArrowUp, EyeOff } from 'lucide-react';
import styled from 'styled-components';
import { type ReportPartName, partsInOrder } from '../../../core/report/report.ts';
import type { Study } from '../../../core/model/study.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { tell, tellDone } from '../../app/tell.ts';
import { IconButton } from '../../ui/icon-button.tsx';
import { PRINT } from '../../ui/tokens.ts';

const Tools = styled.span`
  display: inline-flex;
  margin-left: auto;
  ${PRINT} {
    display: none;
  }
`;

/** Saves what the tester made of the report, and offers the way back. */
function change(study: Study, report: Partial<Study['report']>, done: string): void {
  tell(
    patchStudy(study, { report: { ...study.report, ...report } }).then((now) => {
      tellDone(done, () => patchStudy(now, { report: study.report }));
    }),
  );
}

export const show = (study: Study, name: ReportPartName, heading: string): void => {
  change(
    study,
    { hidden: study.report.hidden.filter((part) => part !== name) },
    `“${heading}” is shown again.`,
  );
};

/** Moves a part up or down among those that are shown, or hides it. */
export function PartTools({
  study,
  name,
  heading,
  shown,
}: {
  study: Study;
  name: ReportPartName;
  heading: string;
  /** The parts that are shown, in their order. */
  shown: readonly ReportPartName[];
}) {
  const place = shown.indexOf(name);
  const move = (by: 1 | -1) => {
    const other = shown[place + by];
    if (other === undefined) return;
    const order = partsInOrder(study.report.order).filter((part) => part !== name);
    order.splice(order.indexOf(other) + (by === 1 ? 1 : 0), 0, name);
    change(study, { order }, `“${heading}” was moved ${by === 1 ? 'down' : 'up'}.`);
  };
  return (
    <Tools>
      <IconButton
        label={`Move “${heading}” up`}
        isDisabled={place <= 0}
        onPress={() => {
          move(-1);
        }}
      >
        <ArrowUp size={17} aria-hidden />
      </IconButton>
      <IconButton
        label={`Move “${heading}” down`}
        isDisabled={place === -1 || place === shown.length - 1}
        onPress={() => {
          move(1);
        }}
      >
        <ArrowDown size={17} aria-hidden />
      </IconButton>
      <IconButton
        label={`Hide “${heading}”`}
        onPress={() => {
          change(study, { hidden: [...study.report.hidden, name] }, `“${heading}” is hidden.`);
        }}
      >
        <EyeOff size={17} aria-hidden />
      </IconButton>
    </Tools>
  );
}
