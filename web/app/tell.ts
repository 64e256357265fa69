import { toast } from '../ui/toast.tsx';
import { failureText } from './api/client.ts';

/** Says why something was not done. */
export function tellFailure(error: unknown): void {
  toast({ text: failureText(error), tone: 'attention' });
}

/** Lets a change run, and says so when it failed. */
export function tell(change: Promise<unknown>): void {
  change.catch(tellFailure);
}

/** Says what was done, with a way back; one that fails says why, and can be gone again. */
export function tellDone(text: string, undo: () => Promise<unknown>): void {
  const offer = (said: string, tone: 'plain' | 'attention') => {
    toast({
      text: said,
      tone,
      action: {
        label: 'Undo',
        run: () => {
          undo().catch((error: unknown) => {
            offer(`Not undone: ${failureText(error)}`, 'attention');
          });
        },
      },
    });
  };
  offer(text, 'plain');
}
