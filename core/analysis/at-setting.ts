import type { ClassAnalysis, MeasurandAnalysis, SettingAnalysis } from './analyse-study.ts';

/** The analysis at one setting; the first one where nothing else is asked for or the one asked for was not read. */
export const atSetting = ({ settings }: MeasurandAnalysis, key?: string): SettingAnalysis =>
  settings.find(({ setting }) => setting.key === key) ?? (settings[0] as SettingAnalysis);

/** The classes of a setting, and its controls as one more. */
export const groupsOf = ({
  classes,
  controls,
}: Pick<SettingAnalysis, 'classes' | 'controls'>): ClassAnalysis[] =>
  controls ? [...classes, controls] : classes;
