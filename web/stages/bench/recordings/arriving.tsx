import { useOverview, useSoundHeads } from '../../../app/api/recordings.ts';
import { SoundPicture, soundColumns } from '../../../strip/sound-picture.tsx';
import { useView } from './use-view.ts';

const COLUMNS = soundColumns(900);
const NOTHING = () => undefined;

/** A recording while it is being kept: it is seen at once, since a long one takes its time. */
export function Arriving({ ticket, name }: { ticket: string; name: string }) {
  const [head] = useSoundHeads([{ file: ticket }]);
  const lengthS = head?.data?.lengthS ?? 0;
  const overview = useOverview(head?.data && ticket);
  const { view, setView, columns } = useView(head?.data && ticket, 1, lengthS, COLUMNS, overview);
  if (lengthS === 0) return null;
  return (
    <SoundPicture
      label={`${name} over time, while it is being kept.`}
      caption={`${name} is being kept. What sounds in it is looked for after that.`}
      lengthS={lengthS}
      view={view}
      columns={columns}
      track={undefined}
      scale={{ addDb: 0, unit: 'dB FS' }}
      threshold={undefined}
      windows={[]}
      chosenKey={undefined}
      playing={undefined}
      onView={setView}
      onChoose={NOTHING}
      onThreshold={NOTHING}
      onWindow={NOTHING}
    />
  );
}
