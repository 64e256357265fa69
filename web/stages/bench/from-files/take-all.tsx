import type { ReactNode } from 'react';
import type { Measurand } from '../../../../core/model/parts.ts';
import { counted } from '../../../../core/quantity/format.ts';
import { Button } from '../../../ui/button.tsx';
import { Key } from '../../../ui/key.tsx';
import { toast } from '../../../ui/toast.tsx';
import { useTakeKey } from './use-take-key.ts';
import type { TakenTogether } from './worked-out.ts';

/** The one key that takes all that is ready as readings, with a way back. */
export function TakeAll({
  measurand: { name },
  ready,
  working,
  take,
  takeBack,
  nothing,
}: {
  measurand: Measurand;
  /** How many readings there would be. */
  ready: number;
  /** Whether some are still being worked out: the key waits for them. */
  working: boolean;
  take: () => Promise<TakenTogether>;
  takeBack: (together: TakenTogether) => Promise<unknown>;
  /** Why there is nothing to take. */
  nothing: ReactNode;
}) {
  const taking = async () => {
    if (ready === 0) return;
    const together = await take();
    const { ids, skipped } = together;
    toast({
      text: `${counted(ids.length, 'reading')} of ${name} taken${skipped.length > 0 ? `, ${counted(skipped.length, 'run')} skipped` : ''}.`,
      action: { label: 'Take them back', run: () => void takeBack(together) },
    });
  };
  useTakeKey(working, taking);
  return ready > 0 ? (
    <Button tone="go" size="large" onPress={() => void taking()}>
      Take {counted(ready, 'reading')} <Key>Ctrl Enter</Key>
    </Button>
  ) : (
    <p>{nothing}</p>
  );
}
