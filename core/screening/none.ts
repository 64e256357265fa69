import type { ScreeningRule } from './rule.ts';

export const none: ScreeningRule = {
  name: 'none',
  label: 'None',
  does: 'Keeps every reading.',
  suits: 'Suits when every odd reading has been looked at by hand.',
  statisticName: '',
  keepsAll: true,
  screen: () => ({ leftOut: [] }),
};
