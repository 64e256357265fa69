/** Days and times as they are told everywhere: in the reader's language, by the 24-hour clock. */
const told = (options: Intl.DateTimeFormatOptions) => {
  const format = new Intl.DateTimeFormat(undefined, { hourCycle: 'h23', ...options });
  return (instant: string | number): string => format.format(new Date(instant));
};

/** “12 Sep” */
export const shortDay = told({ day: 'numeric', month: 'short' });
/** “12 September 2026” */
export const longDay = told({ day: 'numeric', month: 'long', year: 'numeric' });
/** “Saturday, 12 September” */
export const weekDay = told({ weekday: 'long', day: 'numeric', month: 'long' });
/** “12 Sep, 08:30” */
export const dayAndTime = told({ day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
/** “08:30” */
export const clockTime = told({ hour: '2-digit', minute: '2-digit' });
/** “12 Sep 2026” */
export const dayOfYear = told({ day: 'numeric', month: 'short', year: 'numeric' });
