import { METHODS } from './index.ts';

/** docs/methods.md: the page of the methods as Markdown. */
export const methodsPage = (): string =>
  [
    '# Methods',
    '',
    'How Brackenridge judges readings, in plain words. The program shows the same under _Methods_. What each is checked',
    'against stands in [checks.md](checks.md).',
    ...METHODS.flatMap(({ title, about, entries }) => [
      '',
      `## ${title}`,
      '',
      about,
      ...entries.flatMap(({ label, says, formula, source, misleads, example }) => [
        '',
        `### ${label}`,
        '',
        says,
        '',
        `- **Formula:** ${formula}`,
        `- **Source:** ${source}`,
        `- **Misleads:** ${misleads}`,
        `- **Example:** ${example.given}. ${example.gives}`,
      ]),
    ]),
    '',
  ].join('\n');
