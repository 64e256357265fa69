import { useState } from 'react';
import styled from 'styled-components';
import type { Timing } from '../../../core/model/study.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { type Duration, spokenDuration } from '../../../core/plan/duration.ts';
import { factorLevels, measurandsRead } from '../../../core/plan/grid.ts';
import { counted, formatShare } from '../../../core/quantity/format.ts';
import { patchPart, patchStudy } from '../../app/api/studies.ts';
import { SavedNumber } from '../../app/draft-field.tsx';
import { weekDay } from '../../ui/when.ts';

const Fields = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(168px, 1fr));
  gap: 12px;
  align-items: end;
  margin-bottom: 14px;
`;

/** How long it takes in all, and what takes most of it. */
function Total({ duration: { totalS, sessions, days, shares } }: { duration: Duration }) {
  const [openedAt] = useState(() => Date.now());
  const end = openedAt + (days - 1) * 86400000;
  const [largest] = shares;
  return (
    <p>
      About <b>{spokenDuration(totalS)}</b> in {counted(sessions, 'session')}
      {days > 1 && `; begun today it would end on ${weekDay(end)}`}.{' '}
      {largest &&
        largest.share < 1 &&
        `Most of it, ${formatShare(largest.share)}, goes into ${largest.what}.`}
    </p>
  );
}

/** What a reading, a change of item and a round take; total, sessions, end date, and what dominates. */
export function HowLong({ document, duration }: { document: StudyDocument; duration: Duration }) {
  const { study } = document;
  const { timing } = study;
  const save = (changes: Partial<Timing>) => patchStudy(study, { timing: { ...timing, ...changes } });
  const notNegative = (value: number) => (value < 0 ? 'A time is 0 or more.' : undefined);
  const measurands = measurandsRead(document);
  const seconds = (label: string, name: 'setupS' | 'levelS' | 'roundWaitS') => (
    <SavedNumber
      label={label}
      saved={timing[name]}
      unit="s"
      required
      check={notNegative}
      save={(value) => save({ [name]: value ?? 0 })}
    />
  );
  return (
    <>
      <Fields>
        {measurands.map((measurand) => (
          <SavedNumber
            key={measurand.id}
            label={measurands.length > 1 ? `One reading of ${measurand.name}` : 'One reading takes'}
            saved={measurand.readingS}
            unit="s"
            required
            check={notNegative}
            save={(readingS) => patchPart('measurands', measurand, { readingS: readingS ?? 0 })}
          />
        ))}
        {seconds('Changing the item', 'setupS')}
        {factorLevels(document).length > 0 && seconds('Changing a level', 'levelS')}
        {seconds('Wait between rounds', 'roundWaitS')}
        <SavedNumber
          label="Length of a session"
          saved={timing.sessionS / 60}
          unit="min"
          required
          check={(value) => (value < 1 || value > 1440 ? 'From 1 to 1440 minutes.' : undefined)}
          save={(value) => save({ sessionS: (value ?? 120) * 60 })}
        />
        <SavedNumber
          label="Sessions a day"
          saved={timing.sessionsPerDay}
          required
          check={(value) =>
            Number.isInteger(value) && value >= 1 && value <= 24 ? undefined : 'A whole number from 1 to 24.'
          }
          save={(value) => save({ sessionsPerDay: value ?? 1 })}
        />
      </Fields>
      {duration.totalS > 0 && <Total duration={duration} />}
    </>
  );
}
