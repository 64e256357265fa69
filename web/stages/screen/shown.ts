import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import type { StudyFinding } from '../../../core/inspections/inspection.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { useAgreement, usePrecision } from '../../app/api/analysis.ts';
import type { StudyView } from '../../app/study-view.tsx';

/** All that the stage shows, of one state of the study. */
export interface Shown {
  view: StudyView & { measurand: Measurand };
  /** None while the first is made. */
  analysis: SettingAnalysis | undefined;
  /** The state of the study that the analysis is of. */
  analysed: StudyDocument;
  findings: readonly StudyFinding[];
  precision: ReturnType<typeof usePrecision>['data'];
  agreement: ReturnType<typeof useAgreement>['data'];
}
