import { type ReactNode, useMemo, useState } from 'react';
import { settingsRead } from '../../core/analysis/settings.ts';
import { measurandsInOrder } from '../../core/model/in-order.ts';
import type { Measurand } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
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
  measurand: Measurand | undefined;
  /** Key of the setting that is shown. */
  settingKey: string;
  /** The same in words; '' without factors. */
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
  const settings = useMemo(() => settingsRead(document), [document]);
  const shown = settings.find(({ key }) => key === chosenSetting) ?? settings[0];
  const measurand = measurands.find(({ id }) => id === chosen) ?? measurands[0];
  const options = settings.map(({ key, words }) => ({ value: key, label: words }));
  const Settings = options.length > MOST_SEGMENTS ? Choice : Segments;
  return {
    document,
    measurand,
    settingKey: shown?.key ?? '',
    setting: shown?.words ?? '',
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
          {options.length > 1 && shown && (
            <Settings label="Setting" labelHidden value={shown.key} options={options} onChange={setSetting} />
          )}
        </Row>
      ) : null,
  };
}
