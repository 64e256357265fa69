import js from '@eslint/js';
import jsxA11y from 'eslint-plugin-jsx-a11y';
import { configs as regexp } from 'eslint-plugin-regexp';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** A rule against imports of one part of the house from another. */
const noImports = (...groups) => ({
  'no-restricted-imports': ['error', { patterns: groups.map(([regex, message]) => ({ regex, message })) }],
});

const OUT_OF_CORE = [
  '^(node:|react|react-|@tanstack|hono|sequelize|sqlite3|styled-components|chart\\.js|ajv|idb|comlink)|/(server|web|cli|instruments|demo)/',
  'The core is pure: no interface, no server, no input or output.',
];
/** The folders of the core from the ground up: each imports only from those before it. */
const LAYERS = [
  'model',
  'quantity',
  'conditions',
  'random',
  'distributions',
  'summary',
  'error',
  'precision',
  'trace',
  'sound',
  'forms',
  'expression',
  'screening',
  'compare',
  'plan',
  'record',
  'bench',
  'observations',
  'rank',
  'findings',
  'inspections',
  'analysis',
  'claims',
  'report',
  'formats',
  'methods',
];

const STATISTICS_DOOR = ['^lib-r-math\\.js$', 'Distributions come through core/distributions.'];

export default tseslint.config(
  { ignores: ['dist/', 'node_modules/', 'test-results/', '.local/', 'core/sound/kernel/assembly.ts'] },
  js.configs.recommended,
  {
    // Patterns meet text from outside: none may take longer than its length allows.
    plugins: regexp['flat/recommended'].plugins,
    rules: {
      'regexp/no-super-linear-backtracking': 'error',
      'regexp/no-super-linear-move': 'error',
      'regexp/no-dupe-disjunctions': 'error',
      'regexp/no-empty-alternative': 'error',
      'regexp/no-misleading-unicode-character': 'error',
    },
  },
  {
    files: ['**/*.ts', '**/*.tsx'],
    extends: [...tseslint.configs.strictTypeChecked, ...tseslint.configs.stylisticTypeChecked],
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' },
      ],
      '@typescript-eslint/consistent-type-definitions': ['error', 'interface'],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      // Array access is checked by noUncheckedIndexedAccess; an assertion after a length check is its counterpart.
      '@typescript-eslint/non-nullable-type-assertion-style': 'off',
      '@typescript-eslint/no-unnecessary-type-parameters': 'off',
      // A tenth of the time of all rules, for what an editor strikes through.
      '@typescript-eslint/no-deprecated': 'off',
      // Code points are what is wanted where a text is taken apart.
      '@typescript-eslint/no-misused-spread': 'off',
      // Iterators over typed arrays cost what the inner loops save.
      '@typescript-eslint/prefer-for-of': 'off',
      '@typescript-eslint/prefer-nullish-coalescing': [
        'error',
        { ignorePrimitives: { string: true, boolean: true } },
      ],
      ...noImports(STATISTICS_DOOR),
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['core/**/*.test.ts'],
    rules: noImports(OUT_OF_CORE, STATISTICS_DOOR),
  },
  ...LAYERS.map((layer, i) => ({
    files: [`core/${layer}/**/*.ts`],
    ignores: ['core/**/*.test.ts', 'core/distributions/{index,normal}.ts'],
    rules: noImports(
      OUT_OF_CORE,
      STATISTICS_DOOR,
      ...(i + 1 < LAYERS.length
        ? [
            [
              `^(\\.\\./)+(${LAYERS.slice(i + 1).join('|')})/`,
              `The folders of the core stand on one another: ${layer} knows nothing of those above it.`,
            ],
          ]
        : []),
    ),
  })),
  {
    files: ['core/distributions/{index,normal}.ts'],
    rules: noImports(OUT_OF_CORE),
  },
  {
    files: ['server/**/*.ts'],
    rules: noImports(['/web/', 'The server does not know the pages.'], STATISTICS_DOOR),
  },
  {
    files: ['server/**/*.ts'],
    ignores: ['server/sqlite/**', 'server/testing.ts'],
    rules: noImports(['/web/', 'The server does not know the pages.'], STATISTICS_DOOR, [
      '^(sequelize|sqlite3|umzug)$|/sqlite/(?!(open|lock|refusal|copy)\\.ts$)',
      'What is SQLite’s stays in server/sqlite; the rest knows server/database.ts.',
    ]),
  },
  {
    files: ['web/**/*.ts', 'web/**/*.tsx'],
    plugins: { 'react-hooks': reactHooks },
    extends: [jsxA11y.flatConfigs.strict],
    rules: {
      ...reactHooks.configs.recommended.rules,
      // A field that has just been opened is where the hand wants to type.
      'jsx-a11y/no-autofocus': 'off',
      ...noImports(
        ['/server/', 'Pages speak to the server through its API.'],
        ['^node:', 'Pages run in the browser.'],
        STATISTICS_DOOR,
      ),
    },
  },
  {
    files: ['web/ui/**', 'web/strip/**'],
    rules: noImports(
      ['/(stages|app|server)/', 'The design system and the strip know no stage.'],
      STATISTICS_DOOR,
    ),
  },
  // Nothing is shared between two stages: what two of them need lives in app, strip or ui.
  ...['studies', 'plan', 'bench', 'screen', 'rank', 'report', 'design', 'interface', 'methods'].map(
    (stage) => ({
      files: [`web/stages/${stage}/**`],
      rules: noImports(
        [
          `\\.\\./(studies|plan|bench|screen|rank|report|design|interface|methods)/`,
          'A stage takes nothing from another stage.',
        ],
        ['/server/', 'Pages speak to the server through its API.'],
        STATISTICS_DOOR,
      ),
    }),
  ),
  {
    files: ['scripts/**/*.mjs', '*.js'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        setTimeout: 'readonly',
        fetch: 'readonly',
        performance: 'readonly',
        URL: 'readonly',
        Buffer: 'readonly',
      },
    },
  },
);
