import styled from 'styled-components';
import type { Item } from '../../../core/model/parts.ts';
import type { Balance } from '../../../core/plan/run-order.ts';
import { formatShare } from '../../../core/quantity/format.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';

const WIDTH = 560;
/** A code and its mark, stacked where they would lie over one another. */
const LINE = 32;
/** Nearer than this share of the picture, two labels would touch. */
const TOUCHING = 7;

const Picture = styled.figure`
  margin-top: 16px;
  max-width: ${WIDTH + 80}px;
  > div {
    position: relative;
    margin: 0 12px;
    border-bottom: 2px solid var(--rule-strong);
  }
  > div > span {
    position: absolute;
    display: grid;
    justify-items: center;
    transform: translateX(-50%);
    font-size: var(--size-13);
    line-height: 1.1;
  }
  > div::after {
    content: '';
    position: absolute;
    left: 50%;
    bottom: -7px;
    height: 12px;
    border-left: 2px solid var(--ink);
  }
  figcaption {
    display: flex;
    justify-content: space-between;
    margin: 8px 12px 0;
    font-size: var(--size-13);
    color: var(--quiet);
  }
`;

/** More items than this would lie over each other. */
const MOST_SHOWN = 24;

/** Where each item stands in the order on average: a drift would be seen as far as they lie apart. */
export function BalancePicture({
  shares,
  items,
}: {
  shares: readonly Balance[];
  items: ReadonlyMap<string, Item>;
}) {
  if (shares.length > MOST_SHOWN) return null;
  // From a quarter to three quarters of the way; farther out an item lies at the edge.
  const toX = (share: number) => Math.max(0, Math.min(100, 100 * (share - 0.25) * 2));
  // The lowest line on which a label touches none that is there already.
  const lines: number[] = [];
  const ends: number[] = [];
  for (const { meanPlace } of shares) {
    const line = ends.findIndex((end) => toX(meanPlace) - end >= TOUCHING);
    const lineFor = line === -1 ? ends.length : line;
    ends[lineFor] = toX(meanPlace);
    lines.push(lineFor);
  }
  const words = shares
    .map(({ itemId, meanPlace }) => `${items.get(itemId)?.name ?? ''} ${formatShare(meanPlace)}`)
    .join(', ');
  return (
    <Picture role="img" aria-label={`Mean place in the order: ${words}`}>
      <div aria-hidden style={{ height: 12 + LINE * ends.length }}>
        {shares.map(({ itemId, meanPlace }, i) => {
          const item = items.get(itemId);
          return (
            item && (
              <span
                key={itemId}
                style={{ left: `${String(toX(meanPlace))}%`, bottom: 4 + LINE * (lines[i] as number) }}
              >
                {item.code}
                <MarkSign mark={item.mark} size={14} />
              </span>
            )
          );
        })}
      </div>
      <figcaption aria-hidden>
        <span>earlier than the others</span>
        <span>mean place in the order</span>
        <span>later</span>
      </figcaption>
    </Picture>
  );
}
