import styled from 'styled-components';
import { ALPHA } from '../../../core/model/alpha.ts';
import type { Looks, Study } from '../../../core/model/study.ts';
import { lookLevels } from '../../../core/plan/look-levels.ts';
import { plannedLooks } from '../../../core/plan/looks.ts';
import { formatNumber, quoted } from '../../../core/quantity/format.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { SavedAs } from '../../app/draft-field.tsx';
import { tell } from '../../app/tell.ts';
import { Choice } from '../../ui/choice.tsx';
import { FigureHead, Table } from '../../ui/table.tsx';

const Fields = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 220px) minmax(0, 1fr);
  gap: 12px;
  max-width: 720px;
  margin-bottom: 14px;
  @media (max-width: 560px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const MOST_LOOKS = 20;

const SPENDINGS = [
  {
    value: 'late',
    label: 'Strict early',
    help: 'only a very clear lead ends it early, and the end is nearly as it would be without looks',
  },
  {
    value: 'even',
    label: 'Alike at each look',
    help: 'a clear lead ends it sooner, and the end is stricter for it',
  },
] as const;

/** Reads “4, 6” as rounds in order. */
function parseRounds(text: string, rounds: number): { value: number[] } | { problem: string } {
  const words = text.split(/[\s,;]+/).filter((word) => word !== '' && word.toLowerCase() !== 'and');
  const wrong = words.find((word) => !/^\d{1,3}$/.test(word) || Number(word) < 1 || Number(word) >= rounds);
  if (wrong !== undefined) {
    return {
      problem: `${quoted(wrong)} is no round before the last one, which is ${String(rounds)}.`,
    };
  }
  const after = [...new Set(words.map(Number))].sort((a, b) => a - b);
  return after.length > MOST_LOOKS
    ? { problem: `At most ${String(MOST_LOOKS)} looks can be planned.` }
    : { value: after };
}

/** Planned looks at the ranking before the plan is complete, and what each of them asks of a lead. */
export function LooksPlanned({ study }: { study: Study }) {
  const { looks, rounds } = study;
  const save = (changes: Partial<Looks>) => patchStudy(study, { looks: { ...looks, ...changes } });
  const planned = plannedLooks(study);
  const levels = lookLevels(
    planned.map((round) => round / rounds),
    ALPHA,
    looks.spending,
  );
  return (
    <>
      <p style={{ maxWidth: '68ch', marginBottom: 14 }}>
        Who stops as soon as somebody seems to lead names a false winner in 15 % of studies, not in 5 %. Looks
        that are planned keep the promise: each asks more of a lead, and where first place is settled you may
        stop.
      </p>
      <Fields>
        <SavedAs<number[]>
          label="Look after rounds"
          placeholder="none"
          help={`with commas between them, before round ${String(rounds)}`}
          saved={looks.after}
          toText={(after) => after.join(', ')}
          parse={(text) => parseRounds(text, rounds)}
          save={(after) => save({ after })}
        />
        <Choice
          label="How strict"
          value={looks.spending}
          options={SPENDINGS}
          onChange={(spending) => {
            tell(save({ spending }));
          }}
        />
      </Fields>
      {planned.length > 1 && (
        <Table style={{ maxWidth: 420 }}>
          <thead>
            <tr>
              <th scope="col">Look</th>
              <FigureHead>chance alone must be under</FigureHead>
            </tr>
          </thead>
          <tbody>
            {planned.map((round, i) => (
              <tr key={round}>
                <th scope="row">{round === rounds ? 'at the end' : `after round ${String(round)}`}</th>
                <td className="figure">{`${formatNumber(100 * (levels[i] as number), 2)}\u202f%`}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </>
  );
}
