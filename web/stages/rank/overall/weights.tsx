import { useId, useState } from 'react';
import styled from 'styled-components';
import type { ClassBasis } from '../../../../core/analysis/score-basis.ts';
import type { ClassScores } from '../../../../core/analysis/scores.ts';
import type { Scoring } from '../../../../core/model/parts.ts';
import { formatPlain } from '../../../../core/quantity/format.ts';
import { parseQuantity } from '../../../../core/quantity/parse.ts';
import { SCORING_WORDS, balanced } from '../../../../core/rank/scores.ts';
import { SavedAs } from '../../../app/draft-field.tsx';
import { tell } from '../../../app/tell.ts';
import { Button } from '../../../ui/button.tsx';
import { Row } from '../../../ui/page.tsx';
import { Segments } from '../../../ui/segments.tsx';
import { label } from '../../../ui/tokens.ts';
import type { ScoringInHand } from './use-scoring.ts';

const List = styled.ul`
  display: grid;
  gap: 4px;
  margin: 6px 0 10px;
  max-width: 720px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 210px) minmax(80px, 1fr) 112px;
    align-items: center;
    gap: 14px;
  }
  label {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  @media (max-width: 560px) {
    li {
      grid-template-columns: minmax(0, 1fr) 104px;
    }
    label {
      grid-column: 1 / -1;
    }
  }
`;

const Heading = styled.h2`
  && {
    ${label}
  }
`;

const Slider = styled.input`
  appearance: none;
  width: 100%;
  height: 44px;
  margin: 0;
  background: transparent;
  cursor: pointer;
  &::-webkit-slider-runnable-track {
    height: 8px;
    border-radius: 4px;
    background: linear-gradient(90deg, var(--fern) var(--filled), var(--rule) var(--filled));
  }
  &::-moz-range-track {
    height: 8px;
    border-radius: 4px;
    background: var(--rule);
  }
  &::-moz-range-progress {
    height: 8px;
    border-radius: 4px;
    background: var(--fern);
  }
  &::-webkit-slider-thumb {
    appearance: none;
    width: 24px;
    height: 24px;
    margin-top: -8px;
    border: 2px solid var(--fern);
    border-radius: 50%;
    background: var(--sheet);
  }
  &::-moz-range-thumb {
    width: 20px;
    height: 20px;
    border: 2px solid var(--fern);
    border-radius: 50%;
    background: var(--sheet);
  }
`;

const PER_CENT = 100;
const shown = (share: number): number => Number((PER_CENT * share).toFixed(1));

/** Scoring with one weight set in per cent, the others in proportion to what they were. */
function reweighed(
  scoring: Scoring,
  { measurands }: ClassBasis,
  { shares, changed, to }: { shares: readonly number[]; changed: number; to: number },
): Scoring {
  const weights = balanced(shares, changed, to / PER_CENT);
  return {
    ...scoring,
    weights: measurands.map(({ id }, i) => ({ measurandId: id, weight: weights[i] as number })),
  };
}

export interface WeightsProps {
  scores: ClassScores;
  inHand: ScoringInHand;
}

/** The weight of each measurand, and how values become scores. They follow the hand, and are saved when it lets go. */
export function Weights({ scores, inHand: { scoring, show, save } }: WeightsProps) {
  const { basis, shares } = scores;
  const id = useId();
  /** Shares as they were when a slider was taken hold of, until it is left: so the way back is exact. */
  const [held, setHeld] = useState<readonly number[]>();
  const [moved, setMoved] = useState(false);
  const letGo = () => {
    if (!moved) return;
    setMoved(false);
    tell(save(scoring));
  };
  const incomplete = scores.missing.some(({ length }) => length > 0);
  const { how, when } = SCORING_WORDS.find(({ name }) => name === scoring.school) ?? { how: '', when: '' };
  return (
    <section aria-label="Weights and scoring">
      <Heading>Weight of each measurand</Heading>
      <List>
        {basis.measurands.map(({ id: measurandId, name }, i) => {
          const share = shares[i] as number;
          return (
            <li key={measurandId}>
              <label htmlFor={`${id}-${measurandId}`} title={name}>
                {name}
              </label>
              <Slider
                id={`${id}-${measurandId}`}
                type="range"
                min={0}
                max={PER_CENT}
                step={1}
                value={shown(share)}
                aria-valuetext={`${formatPlain(shown(share))} per cent`}
                style={{ '--filled': `${String(PER_CENT * share)}%` }}
                onChange={({ target }) => {
                  const start = held ?? shares;
                  setHeld(start);
                  setMoved(true);
                  show(reweighed(scoring, basis, { shares: start, changed: i, to: Number(target.value) }));
                }}
                onPointerUp={letGo}
                onKeyUp={letGo}
                onBlur={() => {
                  letGo();
                  setHeld(undefined);
                }}
              />
              <SavedAs<number>
                label={`Weight of ${name}`}
                labelHidden
                suffix="%"
                saved={shown(share)}
                toText={(value) => formatPlain(value)}
                parse={(text) => {
                  const understood = parseQuantity(text.replaceAll('%', ''), '');
                  if ('problem' in understood) return understood;
                  return understood.number >= 0 && understood.number <= PER_CENT
                    ? { value: understood.number }
                    : { problem: 'A weight lies between 0 and 100 %.' };
                }}
                save={(value) => save(reweighed(scoring, basis, { shares, changed: i, to: value }))}
              />
            </li>
          );
        })}
      </List>
      <Row style={{ alignItems: 'flex-end', gap: '12px 20px' }}>
        <Segments
          label="Scores by"
          value={scoring.school}
          options={SCORING_WORDS.map(({ name, label: words }) => ({ value: name, label: words }))}
          onChange={(school) => {
            tell(save({ ...scoring, school }));
          }}
        />
        {incomplete && (
          <Segments
            label="Where a value is missing"
            value={scoring.missing}
            options={[
              { value: 'score-the-rest', label: 'Score the rest' },
              { value: 'no-score', label: 'No score' },
            ]}
            onChange={(missing) => {
              tell(save({ ...scoring, missing }));
            }}
          />
        )}
        {scoring.weights.length > 0 && (
          <Button
            tone="quiet"
            onPress={() => {
              tell(save({ ...scoring, weights: [] }));
            }}
          >
            Weigh all alike
          </Button>
        )}
      </Row>
      <p style={{ marginTop: 8, color: 'var(--quiet)', fontSize: 'var(--size-15)' }}>
        {how} {when}
      </p>
    </section>
  );
}
