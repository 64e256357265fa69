import { lazy, useMemo, useState } from 'react';
import styled from 'styled-components';
import {
  type ItemFigure,
  attributeFigures,
  perUnit,
  timesFigure,
} from '../../../core/analysis/item-figures.ts';
import { listed } from '../../../core/quantity/format.ts';
import { Choice } from '../../ui/choice.tsx';
import { Fold } from '../../ui/fold.tsx';
import { Row } from '../../ui/page.tsx';
import { Segments } from '../../ui/segments.tsx';
import { type AgainstProps, unbeatenOf } from './unbeaten.ts';
import { Later } from '../../ui/later.tsx';

const AgainstFigure = lazy(async () => ({ default: (await import('./against-figure.tsx')).AgainstFigure }));

const Frame = styled.div`
  margin-top: 26px;
`;

const ALONE = 'alone';
const BY = 'by ';
const TIMES = 'times ';

/** Results held against what the items have besides: what they cost, what they weigh, what may explain them. */
export function Against(props: AgainstProps) {
  const { items, name } = props;
  const figures = useMemo(() => attributeFigures(items), [items]);
  const [chosen, setChosen] = useState<string>();
  const [together, setTogether] = useState(ALONE);
  const [less, setLess] = useState<'less' | 'more'>('less');
  const found = figures.find(({ key }) => key === chosen) ?? figures[0];
  if (!found) return null;
  const others = figures.filter(({ key }) => key !== found.key);
  const [divisor, factor] = [BY, TIMES].map((how) => others.find(({ key }) => together === how + key));
  const figure = divisor ? perUnit(found, divisor) : factor ? timesFigure(found, factor) : found;
  return (
    <Frame>
      <Fold
        title={`${name} against ${figures.length === 1 ? found.name.toLowerCase() : 'the attributes'}`}
        state={valueState(props, figure, less)}
      >
        <Row style={{ marginBottom: 12, alignItems: 'flex-end' }}>
          {figures.length > 1 && (
            <>
              <Choice
                label="Attribute"
                value={found.key}
                options={figures.map(({ key, name: words }) => ({ value: key, label: words }))}
                onChange={setChosen}
              />
              <Choice
                label="Together with"
                value={divisor || factor ? together : ALONE}
                options={[
                  { value: ALONE, label: 'nothing else' },
                  ...others.map(({ key, name: words }) => ({
                    value: BY + key,
                    label: `divided by ${words}`,
                  })),
                  ...others.map(({ key, name: words }) => ({ value: TIMES + key, label: `times ${words}` })),
                ]}
                onChange={setTogether}
              />
            </>
          )}
          <Segments
            label={`Of ${figure.name.toLowerCase()}`}
            value={less}
            options={[
              { value: 'less', label: 'less is better' },
              { value: 'more', label: 'more is better' },
            ]}
            onChange={setLess}
          />
        </Row>
        <Later waiting={<p>…</p>}>
          <AgainstFigure {...props} figure={figure} less={less} />
        </Later>
      </Fold>
    </Frame>
  );
}

function valueState(props: AgainstProps, figure: ItemFigure, less: 'less' | 'more'): string {
  const names = unbeatenOf(props, figure, less).map((index) => props.items[index]?.name ?? '');
  return names.length === 0 ? '' : `No other beats ${listed(names)} on both.`;
}
