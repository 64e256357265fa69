import styled from 'styled-components';
import { type Flips as Found } from '../../../../core/analysis/score-flips.ts';
import type { ClassScores } from '../../../../core/analysis/scores.ts';
import { flipSentence, flipWords, turnWords, weightWords } from '../../../../core/report/scores.ts';
import { Section } from '../../../ui/page.tsx';
import { FORCED } from '../../../ui/tokens.ts';

const List = styled.dl`
  display: grid;
  gap: 10px;
  margin-top: 14px;
  max-width: 860px;
  > div {
    display: grid;
    grid-template-columns: minmax(0, 170px) minmax(0, 1fr);
    gap: 4px 20px;
    align-items: start;
  }
  dt {
    font-weight: 640;
  }
  @media (max-width: 560px) {
    > div {
      grid-template-columns: minmax(0, 1fr);
    }
  }
`;

const Track = styled.span`
  position: relative;
  display: block;
  height: 10px;
  margin: 8px 0 4px;
  border-radius: 5px;
  background: var(--rust-soft);
  ${FORCED} {
    border: 1px solid CanvasText;
  }
`;

const Holds = styled.span`
  position: absolute;
  inset-block: 0;
  border-radius: 5px;
  background: var(--fern);
  opacity: 0.45;
  ${FORCED} {
    background: CanvasText;
    forced-color-adjust: none;
  }
`;

const Now = styled.span`
  position: absolute;
  top: -4px;
  width: 4px;
  height: 18px;
  margin-left: -2px;
  border-radius: 2px;
  background: var(--ink);
`;

const place = (share: number): string => `${(100 * share).toFixed(2)}%`;

/** What would take first place away: each weight on its way from 0 to all, the other schools, single readings. */
export function Flips({ scores, flips }: { scores: Pick<ClassScores, 'basis'>; flips: Found }) {
  const words = flipWords(scores, flips);
  const name = (index: number) => scores.basis.items[index]?.name ?? '';
  const leader = name(flips.leader);
  return (
    <Section aria-labelledby="flips">
      <h2 id="flips">What would change who is first</h2>
      <p style={{ maxWidth: '80ch' }}>{flipSentence(scores, flips)}</p>
      <List>
        {flips.weights.map(({ measurandId, share, down, up }) => {
          const called = scores.basis.measurands.find(({ id }) => id === measurandId)?.name ?? '';
          const turns = [
            down && `below ${turnWords(down.share, share)} it is ${name(down.leader)}`,
            up && `above ${turnWords(up.share, share)} it is ${name(up.leader)}`,
          ].filter(Boolean);
          return (
            <div key={measurandId}>
              <dt>{called}</dt>
              <dd>
                <Track aria-hidden>
                  <Holds
                    style={{
                      left: place(down?.share ?? 0),
                      right: place(1 - (up?.share ?? 1)),
                    }}
                  />
                  <Now style={{ left: place(share) }} />
                </Track>
                {leader} is first at a weight of {weightWords(share)}
                {turns.length > 0 ? `; ${turns.join(', ')}.` : ', and at any other.'}
              </dd>
            </div>
          );
        })}
        {flips.schools.length > 0 && (
          <div>
            <dt>Other scoring</dt>
            <dd>{words.schools.what}</dd>
          </div>
        )}
        <div>
          <dt>Other screening</dt>
          <dd>{words.rules.what}</dd>
        </div>
        <div>
          <dt>Single readings</dt>
          <dd>{words.readings.what}</dd>
        </div>
      </List>
    </Section>
  );
}
