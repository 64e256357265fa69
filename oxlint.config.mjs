/** Some rules, all in force. */
const on = (...rules) => Object.fromEntries(rules.map((rule) => [rule, 'error']));

/** A rule against imports of one part of the house from another. */
const noImports = (...groups) => ({
  'no-restricted-imports': [
    'error',
    {
      patterns: groups.map(([what, message]) => ({
        ...(typeof what === 'string' ? { regex: what } : { group: what }),
        message,
      })),
    },
  ],
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
const NO_SERVER = ['/server/', 'Pages speak to the server through its API.'];
const NO_NODE = ['^node:', 'Pages run in the browser.'];
const NO_PAGES = ['/web/', 'The server does not know the pages.'];

const STAGES = ['studies', 'plan', 'bench', 'screen', 'rank', 'report', 'design', 'interface', 'methods'];

/** What is asked of every file besides what is plainly wrong. */
const EVERYWHERE = on(
  'no-case-declarations',
  'no-empty',
  'no-fallthrough',
  'no-prototype-builtins',
  'no-regex-spaces',
  'no-unexpected-multiline',
  // Patterns meet text from outside: none may take longer than its length allows.
  'regexp/no-super-linear-backtracking',
  'regexp/no-super-linear-move',
  'regexp/no-dupe-disjunctions',
  'regexp/no-empty-alternative',
  'regexp/no-misleading-unicode-character',
);

const TYPED = {
  ...on(
    'no-array-constructor',
    'no-empty-function',
    'no-unused-expressions',
    'no-useless-constructor',
    'no-var',
    'prefer-const',
    'prefer-rest-params',
    'prefer-spread',
    'typescript/adjacent-overload-signatures',
    'typescript/array-type',
    'typescript/ban-tslint-comment',
    'typescript/class-literal-property-style',
    'typescript/consistent-generic-constructors',
    'typescript/consistent-indexed-object-style',
    'typescript/consistent-type-assertions',
    'typescript/dot-notation',
    'typescript/no-confusing-non-null-assertion',
    'typescript/no-dynamic-delete',
    'typescript/no-empty-object-type',
    'typescript/no-explicit-any',
    'typescript/no-extraneous-class',
    'typescript/no-generated-empty-object-type',
    'typescript/no-inferrable-types',
    'typescript/no-invalid-void-type',
    'typescript/no-misused-promises',
    'typescript/no-mixed-enums',
    'typescript/no-namespace',
    'typescript/no-non-null-asserted-nullish-coalescing',
    'typescript/no-non-null-assertion',
    'typescript/no-require-imports',
    'typescript/no-unnecessary-boolean-literal-compare',
    'typescript/no-unnecessary-condition',
    'typescript/no-unnecessary-template-expression',
    'typescript/no-unnecessary-type-arguments',
    'typescript/no-unnecessary-type-assertion',
    'typescript/no-unnecessary-type-constraint',
    'typescript/no-unnecessary-type-conversion',
    'typescript/no-unsafe-argument',
    'typescript/no-unsafe-assignment',
    'typescript/no-unsafe-call',
    'typescript/no-unsafe-enum-comparison',
    'typescript/no-unsafe-function-type',
    'typescript/no-unsafe-member-access',
    'typescript/no-unsafe-return',
    'typescript/only-throw-error',
    'typescript/prefer-find',
    'typescript/prefer-function-type',
    'typescript/prefer-includes',
    'typescript/prefer-literal-enum-member',
    'typescript/prefer-optional-chain',
    'typescript/prefer-promise-reject-errors',
    'typescript/prefer-reduce-type-parameter',
    'typescript/prefer-regexp-exec',
    'typescript/prefer-return-this-type',
    'typescript/prefer-string-starts-ends-with',
    'typescript/related-getter-setter-pairs',
    'typescript/require-await',
    'typescript/unified-signatures',
    'typescript/use-unknown-in-catch-callback-variable',
  ),
  'typescript/ban-ts-comment': ['error', { minimumDescriptionLength: 10 }],
  'typescript/consistent-type-definitions': ['error', 'interface'],
  'typescript/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
  'typescript/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
  'typescript/prefer-nullish-coalescing': ['error', { ignorePrimitives: { string: true, boolean: true } }],
  'typescript/restrict-plus-operands': [
    'error',
    {
      allowAny: false,
      allowBoolean: false,
      allowNullish: false,
      allowNumberAndString: false,
      allowRegExp: false,
    },
  ],
  'typescript/restrict-template-expressions': [
    'error',
    {
      allowAny: false,
      allowBoolean: false,
      allowNever: false,
      allowNullish: false,
      allowNumber: false,
      allowRegExp: false,
    },
  ],
  'typescript/return-await': ['error', 'error-handling-correctness-only'],
  // What `as` says after it is meant.
  'no-unsafe-optional-chaining': 'off',
  // Code points are what is wanted where a text is taken apart.
  'typescript/no-misused-spread': 'off',
};

export default {
  plugins: ['typescript', 'react', 'jsx-a11y'],
  jsPlugins: ['eslint-plugin-regexp'],
  categories: { correctness: 'error' },
  options: { typeAware: true },
  ignorePatterns: ['dist/', 'node_modules/', 'test-results/', '.local/', 'core/sound/kernel/assembly.ts'],
  rules: {
    ...EVERYWHERE,
    // A field that has just been opened is where the hand wants to type.
    'jsx-a11y/no-autofocus': 'off',
    'jsx-a11y/prefer-tag-over-role': 'off',
    // An empty cell of a table is none.
    'jsx-a11y/control-has-associated-label': 'off',
    'no-unused-vars': [
      'error',
      { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' },
    ],
  },
  overrides: [
    { files: ['**/*.ts', '**/*.tsx'], rules: { ...TYPED, ...noImports(STATISTICS_DOOR) } },
    {
      files: ['**/*.mjs'],
      env: { node: true, browser: true },
      rules: { ...on('no-redeclare', 'no-undef'), 'typescript/restrict-template-expressions': 'off' },
    },
    { files: ['core/**/*.ts'], rules: noImports(OUT_OF_CORE, STATISTICS_DOOR) },
    ...LAYERS.map((layer, i) => ({
      files: [`core/${layer}/**/*.ts`],
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
    { files: ['core/distributions/{index,normal}.ts'], rules: noImports(OUT_OF_CORE) },
    { files: ['core/**/*.test.ts'], rules: noImports(STATISTICS_DOOR) },
    {
      files: ['server/**/*.ts'],
      rules: noImports(NO_PAGES, STATISTICS_DOOR, [
        [
          'sequelize',
          'sqlite3',
          'umzug',
          '**/sqlite/*',
          ...['open', 'lock', 'refusal', 'copy'].map((name) => `!**/sqlite/${name}.ts`),
        ],
        'What is SQLite’s stays in server/sqlite; the rest knows server/database.ts.',
      ]),
    },
    { files: ['server/sqlite/**', 'server/testing.ts'], rules: noImports(NO_PAGES, STATISTICS_DOOR) },
    {
      files: ['web/**/*.ts', 'web/**/*.tsx'],
      rules: {
        'react/rules-of-hooks': 'error',
        'react/unsupported-syntax': 'error',
        ...noImports(NO_SERVER, NO_NODE, STATISTICS_DOOR),
      },
    },
    {
      files: ['web/ui/**', 'web/strip/**'],
      rules: noImports(
        ['/(stages|app|server)/', 'The design system and the strip know no stage.'],
        NO_NODE,
        STATISTICS_DOOR,
      ),
    },
    {
      // Nothing is shared between two stages: what two of them need lives in app, strip or ui.
      files: STAGES.map((stage) => `web/stages/${stage}/**`),
      rules: noImports(
        [`\\.\\./(${STAGES.join('|')})/`, 'A stage takes nothing from another stage.'],
        NO_SERVER,
        NO_NODE,
        STATISTICS_DOOR,
      ),
    },
  ],
};
