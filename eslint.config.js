import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';

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
const outerFolders = ['web', 'server', 'cli', 'demo', 'bench', 'e2e', 'scripts'];

const coreRules = coreLayers.map((layer, index) => ({
  files: [`core/${layer}/**/*.ts`],
  ignores: ['**/*.test.ts', '**/test-*.ts'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { group: outerFolders.map((f) => `**/${f}/**`), message: 'core imports nothing from outside core.' },
          { group: ['node:*', 'react*', 'sharp', '@napi-rs/*'], message: 'core knows neither Node nor the interface.' },
          ...(index + 1 < coreLayers.length
            ? [
                {
                  group: coreLayers.slice(index + 1).map((l) => `**/${l}/**`),
                  message: `core/${layer} imports downwards only.`,
                },
              ]
            : []),
        ],
      },
    ],
  },
}));

export default tseslint.config(
  {
    ignores: [
      'core/kernels/assembly/**',
      'core/kernels/built/**',
      'dist/**',
      'node_modules/**',
      '.clyvo/**',
      'bench/.cache/**',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      'no-undef': 'off',
    },
  },
  { files: ['**/*.test.ts'], rules: { '@typescript-eslint/no-unused-expressions': 'off' } },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  ...coreRules,
  {
    files: ['web/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/server/**', '**/cli/**', '**/demo/**', '**/bench/**', 'node:*'],
              message: 'web depends on core only.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['server/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: ['**/web/**', '**/cli/**', '**/bench/**'], message: 'server depends on core and demo data only.' },
          ],
        },
      ],
    },
  },
);
