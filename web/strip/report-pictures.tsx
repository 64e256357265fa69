import { useMemo } from 'react';
import type { OverLevels } from '../../core/analysis/over-levels.ts';
import type { SettingAnalysis } from '../../core/analysis/analyse-study.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { formatPlain, withUnit } from '../../core/quantity/format.ts';
import { orderOver } from '../../core/report/over-levels.ts';
import type { ReportPicture } from '../../core/report/report.ts';
import { leaderBand, stripLanes } from './lanes.ts';
import { OverPicture } from './over-picture.tsx';
import { StripPicture } from './strip-picture.tsx';

export type PictureOf<Of extends ReportPicture['of']> = Extract<ReportPicture, { of: Of }>;

/** The strip of a report: a class of items as they are ranked. */
export function ReportStrip({
  document,
  picture: { measurandId, settingKey, className },
  caption,
  analysis,
}: {
  document: StudyDocument;
  picture: PictureOf<'strip'>;
  caption: string;
  /** undefined while it is being worked out. */
  analysis: SettingAnalysis | undefined;
}) {
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  const lanes = useMemo(() => {
    const group = analysis?.classes.find(({ name }) => name === className);
    if (!measurand || !group) return [];
    const ranked = group.analysis.ranking.flatMap(({ index }) => group.items[index] ?? []);
    const order = [...ranked, ...group.items.filter((item) => !ranked.includes(item))];
    return stripLanes(document, measurand, settingKey, analysis, {
      order,
      places: ranked.length > 0,
      sizes: true,
    });
  }, [document, measurand, settingKey, className, analysis]);
  if (!measurand || lanes.length === 0) return null;
  return (
    <StripPicture
      label={measurand.name}
      unit={measurand.unit}
      lanes={lanes}
      band={leaderBand(analysis, className, (margin) =>
        withUnit(formatPlain(Number(margin.toPrecision(3))), measurand.unit),
      )}
      caption={caption}
    />
  );
}

/** A class of items over the levels of a factor. */
export function ReportLevels({
  picture: { className },
  over,
}: {
  picture: PictureOf<'levels'>;
  over: OverLevels | undefined;
}) {
  const group = over?.classes.find(({ name }) => name === className);
  return over && group ? <OverPicture over={over} group={group} order={orderOver(group)} /> : null;
}
