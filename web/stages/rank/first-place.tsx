import type { ClassAnalysis, SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { Scoring } from '../../../core/model/study.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { marginThatTies } from '../../../core/report/answer.ts';
import { useScoreFlips } from '../../app/api/analysis.ts';
import { Flips } from './flips.tsx';

/** By itself a measurand is its only score. */
const ALONE: Scoring = { school: 'span', missing: 'score-the-rest', weights: [] };

export interface FirstPlaceProps {
  document: StudyDocument;
  analysis: SettingAnalysis;
  group: ClassAnalysis;
  pairAlpha: number;
}

/** What would change who leads by this measurand alone. */
export function FirstPlace({
  document,
  analysis: { measurand, setting },
  group,
  pairAlpha,
}: FirstPlaceProps) {
  const { data } = useScoreFlips(
    document,
    { settingKey: setting.key, pairAlpha, className: group.name, measurandId: measurand.id },
    ALONE,
  );
  if (!data) return <p>{data === null ? 'Nobody leads.' : 'Trying…'}</p>;
  return (
    <Flips
      scores={{ basis: { items: group.items, measurands: [measurand] } }}
      flips={data}
      margin={marginThatTies(
        group.items.map(({ name }) => name),
        group.analysis,
        measurand.unit,
      )}
    />
  );
}
