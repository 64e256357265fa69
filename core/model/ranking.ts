import Type, { type Static } from 'typebox';
import { Id, closed, nullable } from './common.ts';

const Interval = Type.Array(Type.Number(), { minItems: 2, maxItems: 2 });
const OpenInterval = Type.Array(nullable(Type.Number()), {
  minItems: 2,
  maxItems: 2,
  description: 'null where an end is open',
});

export const RankedEntry = Type.Object(
  {
    itemId: Id,
    item: Type.String(),
    place: Type.Integer(),
    placeLow: Type.Integer(),
    placeHigh: Type.Integer({ description: 'the readings allow every place from placeLow to here' }),
    n: Type.Integer({ description: 'readings that count' }),
    mean: nullable(Type.Number()),
    interval: nullable(Interval),
    typed: nullable(
      Type.Object(
        { low: nullable(Type.Number()), high: nullable(Type.Number()) },
        {
          ...closed,
          description:
            'known from elsewhere, not read: the ends of a range, or of a summary the smallest and largest reading',
        },
      ),
    ),
    chanceFirst: nullable(Type.Number({ description: 'share of draws in which it is first' })),
  },
  closed,
);

export const RankedPair = Type.Object(
  {
    a: Id,
    b: Id,
    difference: Type.Number({ description: 'mean of b less mean of a' }),
    interval: nullable(OpenInterval),
    verdict: Type.String({ description: 'a ahead, b ahead, same, not settled or too few' }),
    matters: Type.String({ description: 'yes, no or unsure: whether the difference is beyond the margin' }),
  },
  closed,
);

/** What the readings support of one measurand, as the ranking page says it. */
export const Ranking = Type.Object(
  {
    measurandId: Id,
    measurand: Type.String(),
    unit: Type.String(),
    settings: Type.Array(
      Type.Object(
        {
          setting: Type.String({ description: 'the levels in words; empty without factors' }),
          classes: Type.Array(
            Type.Object(
              {
                class: Type.String(),
                answer: Type.String({ description: 'in a sentence' }),
                method: Type.String({ description: 'how pairs were compared' }),
                ranking: Type.Array(RankedEntry),
                pairs: Type.Array(RankedPair),
              },
              closed,
            ),
          ),
        },
        closed,
      ),
    ),
  },
  { ...closed, description: 'a ranking: the items in order with what the readings support' },
);
export type Ranking = Static<typeof Ranking>;
