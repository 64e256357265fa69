import styled from 'styled-components';
import type { WeightFlip } from '../../../core/rank/flips.ts';
import { type Flips as Found } from '../../../core/analysis/score-flips.ts';
import {
  type FlipBasis,
  flipSentence,
  flipWords,
  turnWords,
  weightWords,
} from '../../../core/report/scores.ts';
import { FORCED } from '../../ui/tokens.ts';

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

/** What would take the lead away: each weight on its way from 0 to all, the other schools, single readings. */
export function Flips({
  scores,
  flips,
  margin,
}: {
  scores: FlipBasis;
  flips: Found;
  /** What another margin would make of it, where that can be said. */
  margin?: string | undefined;
}) {
  const words = flipWords(scores, flips);
  const name = (index: number) => scores.basis.items[index]?.name ?? '';
  const others = [
    ...(flips.schools.length > 0 ? [['Other scoring', words.schools.what]] : []),
    ['Other screening', words.rules.what],
    ['Single readings', words.readings.what],
    ...(margin === undefined ? [] : [['Margin', margin]]),
  ] as const;
  return (
    <>
      <p style={{ maxWidth: '80ch' }}>{flipSentence(scores, flips)}</p>
      <List>
        {flips.weights.map((flip) => (
          <WeightTrack
            key={flip.measurandId}
            flip={flip}
            measurand={scores.basis.measurands.find(({ id }) => id === flip.measurandId)?.name ?? ''}
            leader={name(flips.leader)}
            name={name}
          />
        ))}
        {others.map(([term, what]) => (
          <div key={term}>
            <dt>{term}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </List>
    </>
  );
}

/** One weight from 0 to all: where the leader stays in front, and who takes over. */
function WeightTrack({
  flip: { share, down, up },
  measurand,
  leader,
  name,
}: {
  flip: WeightFlip;
  measurand: string;
  leader: string;
  name: (index: number) => string;
}) {
  const turns = [
    down && `below ${turnWords(down.share, share)} ${name(down.leader)} does`,
    up && `above ${turnWords(up.share, share)} ${name(up.leader)} does`,
  ].filter(Boolean);
  return (
    <div>
      <dt>{measurand}</dt>
      <dd>
        <Track aria-hidden>
          <Holds style={{ left: place(down?.share ?? 0), right: place(1 - (up?.share ?? 1)) }} />
          <Now style={{ left: place(share) }} />
        </Track>
        {leader} leads at a weight of {weightWords(share)}
        {turns.length > 0 ? `; ${turns.join(', ')}.` : ', and at any other.'}
      </dd>
    </div>
  );
}
