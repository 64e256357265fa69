import { lazy, useMemo, useState } from 'react';
import { LANE_HEIGHT, marksSuitRatios } from '../strip/layout.ts';
import type { StripProps } from '../strip/strip.tsx';
import { TakeDrawing } from './take.tsx';
import { Later } from '../ui/later.tsx';

// A page is there before what draws its readings, which comes meanwhile.
const drawing = () => import('../strip/strip.tsx');
drawing().catch(() => undefined);
const Strip = lazy(async () => ({ default: (await drawing()).Strip }));

export interface TakenStripProps extends Omit<StripProps, 'ratios' | 'onRatios' | 'foot'> {
  what: string;
  caption: string;
  /** Whether ratios of the values mean something; an axis of them is offered where the values suit it. */
  trueZero?: boolean;
}

/** The strip to work on, and a drawing of it to take away. */
export function TakenStrip({ what, caption, trueZero = false, ...strip }: TakenStripProps) {
  const { label, unit, lanes, spanned = lanes, band, laneHeight = LANE_HEIGHT } = strip;
  const [wanted, setWanted] = useState(false);
  const suits = useMemo(() => trueZero && marksSuitRatios(spanned), [trueZero, spanned]);
  const ratios = suits && wanted;
  // Few take it, and whoever opens the page need not wait for what draws it.
  const draw = async () => {
    const { StripPicture } = await import('../strip/strip-picture.tsx');
    return <StripPicture {...{ label, unit, lanes, spanned, band, ratios, caption }} />;
  };
  return (
    <Later waiting={<div style={{ minHeight: lanes.length * laneHeight }} />}>
      <Strip
        {...strip}
        ratios={ratios}
        onRatios={suits ? setWanted : undefined}
        foot={<TakeDrawing what={what} draw={draw} />}
      />
    </Later>
  );
}
