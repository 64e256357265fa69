import { useMemo, useState } from 'react';
import type { Occasion } from '../../../../core/analysis/occasion.ts';
import { type SinceEarlier, matchedItem } from '../../../../core/analysis/since.ts';
import type { Item } from '../../../../core/model/parts.ts';
import type { EarlierTest } from '../../../../core/model/study.ts';
import { itemsInOrder } from '../../../../core/model/in-order.ts';
import { counted } from '../../../../core/quantity/format.ts';
import { sinceDecimals, sinceNotes, sinceSentence, sinceTable } from '../../../../core/report/since.ts';
import { useOccasions, useOccasionsOf, useSinceEarlier } from '../../../app/api/earlier.ts';
import { patchStudy } from '../../../app/api/studies.ts';
import { ReportTableView } from '../../../app/report-table.tsx';
import { TakePicture } from '../../../app/take.tsx';
import { tell } from '../../../app/tell.ts';
import { AgainstPicture } from '../../../strip/against-picture.tsx';
import { LevelPicture } from '../../../strip/level-picture.tsx';
import { Choice } from '../../../ui/choice.tsx';
import { Fold } from '../../../ui/fold.tsx';
import { Note } from '../../../ui/note.tsx';
import { Segments } from '../../../ui/segments.tsx';
import { dayOfYear } from '../../../ui/when.ts';
import type { SinceProps } from './since.tsx';

const NO_MATCHES: EarlierTest['matches'] = [];

/** The study held against other studies. */
export function SinceStudies({ chosen, ...props }: SinceProps & { chosen: string }) {
  const { document } = props;
  const { earlier } = document.study;
  const { occasions, gone, settled } = useOccasions(earlier.map(({ studyId }) => studyId));
  const [now] = useOccasionsOf(document, [undefined]);
  const held = useMemo(
    () =>
      earlier.flatMap(({ studyId, matches }) => {
        const occasion = occasions.find((found) => found.studyId === studyId);
        return occasion ? [{ occasion, matches }] : [];
      }),
    [earlier, occasions],
  );
  if (gone.includes(chosen))
    return <p>This study is not on this machine. Import it, and it is compared with.</p>;
  if (!settled || !now) return <p>Comparing…</p>;
  const test = held.find(({ occasion }) => occasion.studyId === chosen);
  return (
    <>
      <SinceFound
        key={props.measurand.id}
        {...props}
        now={now}
        earlier={held}
        isChosen={({ studyId }) => studyId === chosen}
        named="Earlier studies"
      />
      {test && <Matching {...props} occasion={test.occasion} matches={test.matches} />}
    </>
  );
}

/** The last session held against the ones before it. */
export function SinceSession({
  sessionIds,
  chosen,
  ...props
}: SinceProps & { sessionIds: readonly string[]; chosen: string }) {
  const occasions = useOccasionsOf(props.document, sessionIds);
  const now = occasions.at(-1);
  if (occasions.length < sessionIds.length || !now) return <p>Comparing…</p>;
  return (
    <SinceFound
      key={props.measurand.id}
      {...props}
      now={now}
      earlier={occasions.slice(0, -1).map((occasion) => ({ occasion, matches: NO_MATCHES }))}
      isChosen={({ sessionId }) => sessionId === chosen}
      named="Earlier sessions"
    />
  );
}

type Shown = 'as read' | 'less the ambient';

interface FoundProps extends SinceProps {
  now: Occasion;
  earlier: readonly { occasion: Occasion; matches: EarlierTest['matches'] }[];
  isChosen: (test: SinceEarlier['tests'][number]) => boolean;
  named: string;
}

/** What became of the items since the chosen test. */
function SinceFound({ document, measurand, settingKey, now, earlier, isChosen, named }: FoundProps) {
  const [shown, setShown] = useState<Shown>('as read');
  const lessAmbient = shown === 'less the ambient';
  const { data: since } = useSinceEarlier(document, measurand.id, now, earlier, { settingKey, lessAmbient });
  if (since === undefined) return <p>Comparing…</p>;
  if (since === null) return <p>{measurand.name} has nothing that can be compared so.</p>;
  const test = since.tests.findIndex(isChosen);
  if (test === -1) return null;
  const ambient = since.tests.some((held) => held.ambient !== undefined);
  return (
    <>
      {ambient && (
        <div style={{ marginBottom: 12 }}>
          <Segments
            label="Values"
            value={shown}
            options={(['as read', 'less the ambient'] as const).map((value) => ({ value, label: value }))}
            onChange={setShown}
          />
        </div>
      )}
      <p style={{ fontSize: 'var(--size-19)', marginBottom: 14, maxWidth: '70ch' }}>
        {sinceSentence(since, test)}
      </p>
      {since.tests[test]?.problem === undefined && (
        <>
          <OverTime since={since} label={`${measurand.name}: ${named.toLowerCase()} and now`} />
          <div style={{ marginTop: 24 }}>
            <SinceTable since={since} test={test} />
          </div>
          <div style={{ display: 'grid', gap: 16, margin: '18px 0 24px', maxWidth: '80ch' }}>
            {sinceNotes(since, test).map(({ tone, title, text }) => (
              <Note key={title} tone={tone} title={title}>
                <p>{text}</p>
              </Note>
            ))}
          </div>
          <HowWell since={since} test={test} />
        </>
      )}
    </>
  );
}

/** Means of the items, test by test along the time. */
function OverTime({ since, label }: { since: SinceEarlier; label: string }) {
  const { tests, items, measurand } = since;
  const read = tests.filter(({ problem, startedAt }) => problem === undefined && startedAt !== '');
  const days = read.map(({ startedAt }) => Date.parse(startedAt));
  return (
    <TakePicture what={label}>
      <LevelPicture
        label={label}
        caption={`${measurand.name}${measurand.unit && ` in ${measurand.unit}`}${since.lessAmbient ? ', less the ambient' : ''}: means at each test with their 95 % intervals, along the time.`}
        levels={read.map(({ startedAt }, i) => ({
          name: dayOfYear(startedAt),
          value: new Set(days).size === days.length ? (days[i] as number) : null,
        }))}
        lines={items.flatMap((item, index) => {
          const points = read.map(({ means }) => {
            const mean = means[index];
            return mean ? { mean: mean.mean, interval: mean.interval } : undefined;
          });
          const { id, name, code, mark } = item;
          return points.some(Boolean) ? [{ id, name, code, mark, points, place: '' }] : [];
        })}
        decimals={sinceDecimals(since)}
        band={read.map(() => undefined)}
        turns={[]}
      />
    </TakePicture>
  );
}

/** By how much each item changed, with what the intervals know and what they do not. */
function SinceTable({ since, test }: { since: SinceEarlier; test: number }) {
  const { measurand, tests } = since;
  const then = tests[test]?.startedAt;
  const caption = `By how much each changed${measurand.unit && `, ${measurand.unit}`}; then is ${then ? dayOfYear(then) : 'the earlier test'}`;
  return (
    <>
      <ReportTableView table={sinceTable(since, test, caption)} />
      <p style={{ fontSize: 'var(--size-13)', color: 'var(--quiet)', maxWidth: '86ch' }}>
        Intervals hold for all changes at once. They know how readings scatter within a test, not what two
        tests as a whole differ by. “Beyond the others” is from the median change of the others and does not
        depend on that.
      </p>
    </>
  );
}

/** How well the two tests agree: change against mean, with the limits of agreement. */
function HowWell({ since, test }: { since: SinceEarlier; test: number }) {
  const { agreements, items, tests, changes, measurand } = since;
  const limits = agreements[test]?.agreement.limits;
  const points = items.flatMap(({ id, name, mark }, index) => {
    const change = changes[index]?.[test];
    const [then, now] = [tests[test]?.means[index], tests.at(-1)?.means[index]];
    return change && then && now
      ? [{ id, name, mark, x: (then.mean + now.mean) / 2, y: change.difference, interval: change.interval }]
      : [];
  });
  if (points.length < 3) return null;
  const unit = measurand.unit && `, ${measurand.unit}`;
  return (
    <TakePicture what={`${measurand.name}: change against mean`}>
      <AgainstPicture
        label={`${measurand.name}: change of each item against the mean of both tests`}
        caption="Change of each item against the mean of both tests. The dotted line is the mean change of all; 95 % of changes are expected within the band."
        across={`mean of both tests${unit}`}
        up={`now less then${unit}`}
        points={points}
        unbeaten={[]}
        line={{ slope: 0, intercept: agreements[test]?.agreement.bias ?? 0 }}
        band={limits ? () => limits : undefined}
        ratios={false}
      />
    </TakePicture>
  );
}

const ABSENT = 'not in it';

/** Which item of the earlier test each item was; by name where nobody says otherwise. */
function Matching({
  document,
  occasion,
  matches,
}: SinceProps & { occasion: Occasion; matches: EarlierTest['matches'] }) {
  const items = itemsInOrder(document);
  const { study } = document;
  const match = (item: Item, key: string) => {
    const earlierItemId = key === ABSENT ? null : key;
    return patchStudy(study, {
      earlier: study.earlier.map((test) =>
        test.studyId === occasion.studyId
          ? {
              ...test,
              matches: [
                ...test.matches.filter(({ itemId }) => itemId !== item.id),
                { itemId: item.id, earlierItemId },
              ],
            }
          : test,
      ),
    });
  };
  const unmatched = items.filter((item) => !matchedItem(item, occasion, matches));
  return (
    <Fold
      title="Which item was which"
      state={
        unmatched.length === 0
          ? 'every item is matched'
          : `${counted(unmatched.length, 'item')} of ${String(items.length)} not in the earlier test`
      }
    >
      <div
        style={{
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fill, minmax(220px, 1fr))',
          gap: '8px 20px',
        }}
      >
        {items.map((item) => (
          <Choice
            key={item.id}
            label={`${item.name} was then`}
            value={matchedItem(item, occasion, matches)?.id ?? ABSENT}
            options={[
              { value: ABSENT, label: 'not in that test' },
              ...occasion.items.map(({ id, name }) => ({ value: id, label: name })),
            ]}
            onChange={(key) => {
              tell(match(item, key));
            }}
          />
        ))}
      </div>
    </Fold>
  );
}
