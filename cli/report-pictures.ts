import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { analyseStudy } from '../core/analysis/analyse-study.ts';
import { atSetting } from '../core/analysis/at-setting.ts';
import { overLevels } from '../core/analysis/over-levels.ts';
import type { ReportPieces } from '../core/formats/report-html.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { ReportCells } from '../web/strip/report-cells.tsx';
import { ReportLevels, ReportStrip } from '../web/strip/report-pictures.tsx';

/** The pictures of a report, drawn as the pages draw them. */
export const picturesOf =
  (document: StudyDocument, pairAlpha: number): ReportPieces['picture'] =>
  (picture, caption) => {
    const { measurandId } = picture;
    if (picture.of === 'levels') {
      const { factorId, seriesKey } = picture;
      const over = overLevels(document, measurandId, factorId, seriesKey, { pairAlpha }) ?? undefined;
      return renderToStaticMarkup(createElement(ReportLevels, { picture, over })) || undefined;
    }
    const analysis = atSetting(
      analyseStudy(document, measurandId, { pairAlpha, resamples: 0 }),
      picture.settingKey,
    );
    const drawn =
      picture.of === 'strip'
        ? createElement(ReportStrip, { document, picture, caption, analysis })
        : createElement(ReportCells, { document, picture, caption, analysis });
    return renderToStaticMarkup(drawn) || undefined;
  };
