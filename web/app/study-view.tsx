import { type ReactNode, useMemo, useState } from 'react';
import { firstSetting, studySettings, studyView } from '../../core/analysis/view.ts';
import { measurandsInOrder } from '../../core/model/record.ts';
import type { Measurand } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { settingWords } from '../../core/plan/grid.ts';
import { blindStudy } from '../../core/plan/blind.ts';
import { Choice } from '../ui/choice.tsx';
import { Row } from '../ui/page.tsx';
import { Segments } from '../ui/segments.tsx';
import { useStudy } from './study-frame.tsx';

/** More choices than this are a list to open and not a row of segments. */
const MOST_SEGMENTS = 5;

export interface StudyView {
  /** The whole study, items by their codes while these are not opened. */
  document: StudyDocument;
  /** What is analysed: derived readings worked out, one setting where there are factors. */
  view: StudyDocument;
  measurand: Measurand | undefined;
  /** The setting that is shown, in words; '' without factors. */
  setting: string;
  /** Where measurand and setting are chosen; null where there is nothing to choose. */
  control: ReactNode;
}

/** What a stage is about: a measurand, at a setting, with controls to change either. */
export function useStudyView(): StudyView {
  const whole = useStudy();
  const document = useMemo(() => blindStudy(whole), [whole]);
  const measurands = measurandsInOrder(document);
  const [chosen, setChosen] = useState<string>();
  const [chosenSetting, setSetting] = useState<string>();
  const settings = useMemo(() => (document.factors.length === 0 ? [] : studySettings(document)), [document]);
  const key = settings.some((one) => one.key === chosenSetting) ? chosenSetting : firstSetting(document);
  const view = useMemo(() => studyView(document, key), [document, key]);
  const measurand = measurands.find(({ id }) => id === chosen) ?? measurands[0];
  const options = settings.map((one) => ({ value: one.key, label: settingWords(one.levels) }));
  const Settings = options.length > MOST_SEGMENTS ? Choice : Segments;
  return {
    document,
    view,
    measurand,
    setting: options.find(({ value }) => value === key)?.label ?? '',
    control:
      measurands.length > 1 || options.length > 1 ? (
        <Row style={{ marginBottom: 18 }}>
          {measurands.length > 1 && measurand && (
            <Segments
              label="Measurand"
              labelHidden
              value={measurand.id}
              options={measurands.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={setChosen}
            />
          )}
          {options.length > 1 && key !== undefined && (
            <Settings label="Setting" labelHidden value={key} options={options} onChange={setSetting} />
          )}
        </Row>
      ) : null,
  };
}
