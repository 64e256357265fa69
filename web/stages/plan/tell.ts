import { problemText } from '../../app/api/client.ts';
import { toast } from '../../ui/toast.tsx';

/** Lets a change run, and says so when it was refused. */
export function tell(change: Promise<unknown>): void {
  change.catch((error: unknown) => {
    toast({ text: problemText(error), tone: 'attention' });
  });
}
