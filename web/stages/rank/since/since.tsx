import { lazy, useState } from 'react';
import { sessionsRead } from '../../../../core/bench/session.ts';
import type { Measurand } from '../../../../core/model/parts.ts';
import type { EarlierTest } from '../../../../core/model/study.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { counted } from '../../../../core/quantity/format.ts';
import { type ListedStudy, patchStudy, useStudies } from '../../../app/api/studies.ts';
import { tell, tellDone } from '../../../app/tell.ts';
import { Button } from '../../../ui/button.tsx';
import { Choice } from '../../../ui/choice.tsx';
import { Fold } from '../../../ui/fold.tsx';
import { Row } from '../../../ui/page.tsx';
import { clockTime, dayOfYear } from '../../../ui/when.ts';
import { Later } from '../../../ui/later.tsx';

const SinceStudies = lazy(async () => ({ default: (await import('./since-found.tsx')).SinceStudies }));
const SinceSession = lazy(async () => ({ default: (await import('./since-found.tsx')).SinceSession }));

export interface SinceProps {
  document: StudyDocument;
  measurand: Measurand;
  settingKey: string;
}

const NOTHING = 'nothing';

/** The same items at an earlier test: another study, or an earlier session of this one. */
export function Since(props: SinceProps) {
  const { earlier } = props.document.study;
  const sessions = sessionsRead(props.document);
  const named = earlier.map(({ title }) => title);
  return (
    <div style={{ marginTop: 26 }}>
      <Fold
        title="Since an earlier test"
        state={
          named.length > 0
            ? named.join(', ')
            : sessions.length > 1
              ? `${counted(sessions.length, 'session')} of this study, or another study`
              : 'no earlier test is named'
        }
      >
        <Compared {...props} sessions={sessions} />
      </Fold>
    </div>
  );
}

interface PastSession {
  id: string;
  startedAt: string;
}

/** The earlier tests that can be looked at: those that are named, sessions of this study, and studies to name. */
function testOptions(
  study: StudyDocument['study'],
  sessions: readonly PastSession[],
  others: readonly Pick<ListedStudy, 'study'>[],
  value: string,
) {
  return [
    ...(value === NOTHING ? [{ value: NOTHING, label: 'Choose a test' }] : []),
    ...study.earlier.map(({ studyId, title }) => ({ value: studyId, label: title })),
    ...sessions.map(({ id, startedAt }) => ({
      value: id,
      label: `The session of ${dayOfYear(startedAt)}, ${clockTime(startedAt)}`,
      help: 'against the last session',
    })),
    ...others.map(({ study: { id, title } }) => ({
      value: id,
      label: title,
      help: 'another study: name it',
    })),
  ];
}

/** Which earlier test is looked at, and how another one is named. */
function Compared({ sessions, ...props }: SinceProps & { sessions: readonly PastSession[] }) {
  const { study } = props.document;
  const { data: studies = [] } = useStudies();
  const before = sessions.slice(0, -1);
  const [chosen, setChosen] = useState<string>();
  const fallback = study.earlier.at(-1)?.studyId ?? NOTHING;
  const value = [...study.earlier.map(({ studyId }) => studyId), ...before.map(({ id }) => id)].includes(
    chosen ?? '',
  )
    ? (chosen as string)
    : fallback;
  const others = studies.filter(
    ({ study: other }) =>
      other.id !== study.id &&
      other.status !== 'deleted' &&
      !study.earlier.some(({ studyId }) => studyId === other.id),
  );
  const choose = (key: string) => {
    const other = others.find(({ study: { id } }) => id === key)?.study;
    setChosen(key);
    if (!other) return;
    const named = { studyId: other.id, title: other.title, matches: [] };
    tell(keep([...study.earlier, named], `${other.title} is named as an earlier test.`));
  };
  const keep = async (earlier: EarlierTest[], said: string) => {
    const kept = await patchStudy(study, { earlier });
    tellDone(said, () => patchStudy(kept, { earlier: study.earlier }));
  };
  const options = testOptions(study, before, others, value);
  if (study.blind === 'blind')
    return <p>The codes must be opened first: names of an earlier test would give them away.</p>;
  if (options.length === 0 || (value === NOTHING && options.length === 1))
    return <p>There is no other study yet, and one session only.</p>;
  const session = before.find(({ id }) => id === value);
  return (
    <>
      <Row style={{ marginBottom: 14, alignItems: 'flex-end' }}>
        <Choice label="Compared with" value={value} options={options} onChange={choose} />
        {study.earlier.some(({ studyId }) => studyId === value) && (
          <Button
            tone="quiet"
            onPress={() => {
              const rest = study.earlier.filter(({ studyId }) => studyId !== value);
              tell(keep(rest, 'It is not named as an earlier test any more.'));
            }}
          >
            No earlier test of this
          </Button>
        )}
      </Row>
      <Later waiting={<p>Comparing…</p>}>
        {session ? (
          <SinceSession {...props} sessionIds={sessions.map(({ id }) => id)} chosen={session.id} />
        ) : (
          study.earlier.length > 0 && <SinceStudies {...props} chosen={value} />
        )}
      </Later>
    </>
  );
}
