import { defineConfig } from 'oxlint';

/** Inside core, a folder may import only from the folders before it: the arrows point downwards. */
const coreLayers = [
  'kernels',
  'pixels',
  'sound',
  'follow',
  'learned',
  'path',
  'motion',
  'depth',
  'text',
  'cut',
  'film',
  'key',
  'rebuild',
  'settings',
  'arrive',
  'props',
  'shapes',
  'finish',
  'document',
  'scene',
  'edits',
  'make',
  'formats',
  'paint',
];
const outerFolders = ['web', 'server', 'cli', 'demo', 'bench', 'e2e', 'scripts', 'training'];
const tests = ['**/*.test.ts', '**/test-*.ts'];

const noImports = (...patterns) => ({ 'no-restricted-imports': ['error', { patterns }] });

const coreRules = coreLayers.map((layer, index) => {
  const above = coreLayers.slice(index + 1).map((other) => `**/${other}/**`);
  return {
    files: [`core/${layer}/**/*.ts`],
    excludeFiles: tests,
    rules: noImports(
      { group: outerFolders.map((folder) => `**/${folder}/**`), message: 'core imports nothing from outside core.' },
      { group: ['node:*', 'react*', 'sharp', '@napi-rs/*'], message: 'core knows neither Node nor the interface.' },
      ...(above.length > 0 ? [{ group: above, message: `core/${layer} imports downwards only.` }] : []),
    ),
  };
});

export default defineConfig({
  plugins: ['eslint', 'typescript', 'react', 'import', 'oxc'],
  categories: { correctness: 'error' },
  ignorePatterns: ['core/kernels/assembly/**', 'core/kernels/built/**', 'dist/**', '.clyvo/**', 'bench/.cache/**'],
  rules: {
    'import/no-cycle': 'error',
    'no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
    // Sure faults that the tool counts among what is doubtful.
    'no-case-declarations': 'error',
    'no-empty': 'error',
    'no-fallthrough': 'error',
    'no-prototype-builtins': 'error',
    'no-redeclare': 'error',
    'no-regex-spaces': 'error',
    'no-unexpected-multiline': 'error',
    'prefer-const': 'error',
    'preserve-caught-error': 'error',
    'typescript/ban-ts-comment': 'error',
    'typescript/no-empty-object-type': 'error',
    'typescript/no-explicit-any': 'error',
    'typescript/no-namespace': 'error',
    'typescript/no-require-imports': 'error',
    'typescript/no-unnecessary-type-constraint': 'error',
    'typescript/no-unsafe-function-type': 'error',
    // What a compiler of components would ask for; there is none here.
    'react/immutability': 'off',
    'react/purity': 'off',
    'react/refs': 'off',
    'react/set-state-in-effect': 'off',
  },
  overrides: [
    { files: ['**/*.test.ts'], rules: { 'no-unused-expressions': 'off' } },
    {
      files: ['web/**/*.{ts,tsx}'],
      rules: { 'react/rules-of-hooks': 'error', 'react/exhaustive-deps': 'error' },
    },
    ...coreRules,
    {
      files: ['web/**/*.{ts,tsx}'],
      excludeFiles: tests,
      rules: noImports({
        group: ['**/server/**', '**/cli/**', '**/demo/**', '**/bench/**', 'node:*'],
        message: 'web depends on core only.',
      }),
    },
    {
      files: ['server/**/*.ts'],
      excludeFiles: tests,
      rules: noImports({
        group: ['**/web/**', '**/cli/**', '**/bench/**'],
        message: 'server depends on core and demo data only.',
      }),
    },
  ],
});
