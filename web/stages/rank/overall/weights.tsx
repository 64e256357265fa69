import { useId, useState } from 'react';
import styled from 'styled-components';
import type { ClassBasis } from '../../../../core/analysis/score-basis.ts';
import type { Scoring } from '../../../../core/model/study.ts';
import { formatPlain } from '../../../../core/quantity/format.ts';
import { parseQuantity } from '../../../../core/quantity/parse.ts';
import { SCORING_WORDS, balanced, sharesOf } from '../../../../core/rank/scores.ts';
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
  measurands: ClassBasis['measurands'],
  { shares, changed, to }: { shares: readonly number[]; changed: number; to: number },
): Scoring {
  const weights = balanced(shares, changed, to / PER_CENT);
  return {
    ...scoring,
    weights: measurands.map(({ id }, i) => ({ measurandId: id, weight: weights[i] as number })),
  };
}

export interface WeightsProps {
  /** All that can have a weight, in the order of the plan. */
  measurands: ClassBasis['measurands'];
  /** Whether some item lacks a value of them. */
  incomplete: boolean;
  inHand: ScoringInHand;
}

/** How values become scores, and what stands in for one that is missing. */
function ScoredBy({
  scoring,
  incomplete,
  save,
}: Pick<WeightsProps, 'incomplete'> & Pick<ScoringInHand, 'scoring' | 'save'>) {
  return (
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
  );
}

/** The weight of each measurand, and how values become scores. They follow the hand, and are saved when it lets go. */
export function Weights({ measurands, incomplete, inHand: { scoring, show, save } }: WeightsProps) {
  const shares = sharesOf(
    measurands.map(({ id }) => id),
    scoring,
  );
  /** Shares as they were when a slider was taken hold of, until it is left: so the way back is exact. */
  const [held, setHeld] = useState<readonly number[]>();
  const [moved, setMoved] = useState(false);
  const letGo = () => {
    if (!moved) return;
    setMoved(false);
    tell(save(scoring));
  };
  const { how, when } = SCORING_WORDS.find(({ name }) => name === scoring.school) ?? { how: '', when: '' };
  return (
    <section aria-label="Weights and scoring">
      <Heading>Weight of each measurand</Heading>
      <List>
        {measurands.map(({ id, name }, i) => (
          <Weight
            key={id}
            name={name}
            share={shares[i] as number}
            onMove={(to) => {
              const start = held ?? shares;
              setHeld(start);
              setMoved(true);
              show(reweighed(scoring, measurands, { shares: start, changed: i, to }));
            }}
            onLetGo={letGo}
            onLeave={() => {
              letGo();
              setHeld(undefined);
            }}
            save={(to) => save(reweighed(scoring, measurands, { shares, changed: i, to }))}
          />
        ))}
      </List>
      <ScoredBy scoring={scoring} incomplete={incomplete} save={save} />
      <p style={{ marginTop: 8, color: 'var(--quiet)', fontSize: 'var(--size-15)' }}>
        {how} {when}
      </p>
    </section>
  );
}

/** The weight of one measurand: a slider, and the same as a number. */
function Weight({
  name,
  share,
  onMove,
  onLetGo,
  onLeave,
  save,
}: {
  name: string;
  share: number;
  /** The slider stands at so many per cent; it may go on. */
  onMove: (to: number) => void;
  onLetGo: () => void;
  onLeave: () => void;
  save: (to: number) => Promise<unknown>;
}) {
  const id = useId();
  return (
    <li>
      <label htmlFor={id} title={name}>
        {name}
      </label>
      <Slider
        id={id}
        type="range"
        min={0}
        max={PER_CENT}
        step={1}
        value={shown(share)}
        aria-valuetext={`${formatPlain(shown(share))} per cent`}
        style={{ '--filled': `${String(PER_CENT * share)}%` }}
        onChange={({ target }) => {
          onMove(Number(target.value));
        }}
        onPointerUp={onLetGo}
        onPointerCancel={onLetGo}
        onKeyUp={onLetGo}
        onBlur={onLeave}
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
        save={save}
      />
    </li>
  );
}
