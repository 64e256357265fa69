import { Suspense, lazy } from 'react';
import type { StripProps } from '../strip/strip.tsx';
import { TakeDrawing } from './take.tsx';

// A page is there before what draws its readings, which comes meanwhile.
const drawing = () => import('../strip/strip.tsx');
drawing().catch(() => undefined);
const Strip = lazy(async () => ({ default: (await drawing()).Strip }));
/** Height of a lane, px. */
const LANE = 50;

/** The strip to work on, and a drawing of it to take away. */
export function TakenStrip({ what, caption, ...strip }: StripProps & { what: string; caption: string }) {
  const { label, unit, lanes, band, laneHeight = LANE } = strip;
  // Few take it, and whoever opens the page need not wait for what draws it.
  const draw = async () => {
    const { StripPicture } = await import('../strip/strip-picture.tsx');
    return <StripPicture label={label} unit={unit} lanes={lanes} band={band} caption={caption} />;
  };
  return (
    <Suspense fallback={<div style={{ minHeight: lanes.length * laneHeight }} />}>
      <Strip {...strip} foot={<TakeDrawing what={what} draw={draw} />} />
    </Suspense>
  );
}
