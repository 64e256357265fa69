import { type ToggleEvent, useState } from 'react';

/** Whether something that folds open was ever opened: what is in it is not made until then, and stays from then on. */
export function useOpened(): { opened: boolean; onToggle: (event: ToggleEvent<HTMLDetailsElement>) => void } {
  const [opened, setOpened] = useState(false);
  return {
    opened,
    onToggle: ({ currentTarget }) => {
      if (currentTarget.open) setOpened(true);
    },
  };
}
