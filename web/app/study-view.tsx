import { type ReactNode, useMemo, useState } from 'react';
import { factorsRead } from '../../core/analysis/series.ts';
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

/** A factor over whose levels a stage looks, and the others' levels by their key. */
export interface SeriesShown {
  factorId: string;
  key: string;
}

export interface StudyView {
  /** The whole study, items by their codes while these are not opened. */
  document: StudyDocument;
  measurand: Measurand | undefined;
  /** Key of the setting that is shown. */
  settingKey: string;
  /** The same in words; '' without factors. */
  setting: string;
  /** All ranked measurands together, at one setting or at all, where that was asked for and chosen. */
  overall: { settingKey: string | undefined } | undefined;
  /** The levels that are shown side by side, where that was asked for and chosen. */
  series: SeriesShown | undefined;
  /** Whether all settings of several factors are shown on one page, where that was asked for and chosen. */
  whole: boolean;
  /** Where measurand and setting are chosen; null where there is nothing to choose. */
  control: ReactNode;
}

const isRanked = ({ direction }: Measurand) => direction.kind !== 'unranked';

/** The settings that can be looked at side by side, each with what its choice says. */
function seriesOptions(document: StudyDocument): { value: string; label: string; shown: SeriesShown }[] {
  return factorsRead(document).flatMap(({ over: { factor }, series }) =>
    series.map(({ key, words }) => ({
      value: `over/${factor.id}/${key}`,
      label: `Over ${factor.name}${words && `, ${words}`}`,
      shown: { factorId: factor.id, key },
    })),
  );
}

/** The choices that are not one measurand, nor one setting. */
const OVERALL = 'overall';
const EVERY_SETTING = 'every setting';

/**
 * What a stage is about: a measurand, at a setting, with controls to change either.
 * @param over whether the stage can look over the levels of a factor; it does so first
 * @param together whether the stage can look at all ranked measurands together
 */
export function useStudyView({
  over = false,
  together = false,
}: { over?: boolean; together?: boolean } = {}): StudyView {
  const whole = useStudy();
  const document = useMemo(() => blindStudy(whole), [whole]);
  const [chosen, setChosen] = useState<string>();
  const [chosenSetting, setSetting] = useState<string>();
  const settings = useMemo(() => settingsRead(document), [document]);
  const series = useMemo(() => (over ? seriesOptions(document) : []), [over, document]);
  // The same object until something of it changes, so that what is drawn by it is not drawn again.
  return useMemo(
    () =>
      studyView({ document, settings, series, together }, { chosen, setChosen, chosenSetting, setSetting }),
    [document, settings, series, together, chosen, chosenSetting],
  );
}

/** What there is to choose from. */
interface Choices {
  document: StudyDocument;
  settings: ReturnType<typeof settingsRead>;
  /** None where a stage does not look over levels. */
  series: ReturnType<typeof seriesOptions>;
  together: boolean;
}

/** What is chosen of a study, and how another choice is made. */
interface Chosen {
  chosen: string | undefined;
  setChosen: (measurandId: string) => void;
  chosenSetting: string | undefined;
  setSetting: (setting: string) => void;
}

function studyView(
  { document, settings, series, together }: Choices,
  { chosen, setChosen, chosenSetting, setSetting }: Chosen,
): StudyView {
  const measurands = measurandsInOrder(document);
  const measurand = measurands.find(({ id }) => id === chosen) ?? measurands[0];
  const ranksSeveral = together && measurands.filter(isRanked).length > 1;
  const overall = ranksSeveral && chosen === OVERALL;
  // With one factor there is one series, which is all there is.
  const several = new Set(series.map(({ shown }) => shown.factorId)).size > 1;
  const options = [
    ...((overall && settings.length > 1) || (!overall && several)
      ? [{ value: EVERY_SETTING, label: 'All settings' }]
      : []),
    ...(overall ? [] : series.map(({ value, label }) => ({ value, label }))),
    ...settings.map(({ key, words }) => ({ value: key, label: words })),
  ];
  const shown = options.find(({ value }) => value === chosenSetting) ?? options[0];
  const seriesShown = overall ? undefined : series.find(({ value }) => value === shown?.value)?.shown;
  const setting = settings.find(({ key }) => key === shown?.value) ?? settings[0];
  const Settings = options.length > MOST_SEGMENTS ? Choice : Segments;
  return {
    document,
    measurand,
    settingKey: setting?.key ?? '',
    setting: setting?.words ?? '',
    overall: overall
      ? { settingKey: settings.length > 1 && shown?.value !== EVERY_SETTING ? shown?.value : undefined }
      : undefined,
    series: seriesShown,
    whole: !overall && shown?.value === EVERY_SETTING,
    control:
      measurands.length > 1 || options.length > 1 ? (
        <Row style={{ marginBottom: 18 }}>
          {measurands.length > 1 && measurand && (
            <Segments
              label="Measurand"
              labelHidden
              value={overall ? OVERALL : measurand.id}
              options={[
                ...measurands.map(({ id, name }) => ({ value: id, label: name })),
                ...(ranksSeveral ? [{ value: OVERALL, label: 'Over all' }] : []),
              ]}
              onChange={setChosen}
            />
          )}
          {options.length > 1 && shown && (
            <Settings
              label="Setting"
              labelHidden
              value={shown.value}
              options={options}
              onChange={setSetting}
            />
          )}
        </Row>
      ) : null,
  };
}
