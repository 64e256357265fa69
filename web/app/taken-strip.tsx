import { Strip, type StripProps } from '../strip/strip.tsx';
import { TakeDrawing } from './take.tsx';

/** The strip to work on, and a drawing of it to take away. */
export function TakenStrip({ what, caption, ...strip }: StripProps & { what: string; caption: string }) {
  const { label, unit, lanes, band } = strip;
  // Few take it, and whoever opens the page need not wait for what draws it.
  const draw = async () => {
    const { StripPicture } = await import('../strip/strip-picture.tsx');
    return <StripPicture label={label} unit={unit} lanes={lanes} band={band} caption={caption} />;
  };
  return <Strip {...strip} foot={<TakeDrawing what={what} draw={draw} />} />;
}
