import { createConfigForNuxt } from '@nuxt/eslint-config/flat'
import tseslint from 'typescript-eslint'

/** Rooms from the ground up; each may import those before it and itself. See docs/architecture.md. */
const ROOMS = {
  'packages/timeline': [],
  'packages/compositor': ['timeline'],
  'packages/sound': ['timeline'],
  'packages/interchange': ['timeline'],
  'packages/store': ['timeline'],
  'packages/media': ['timeline', 'sound', 'interchange'],
  'apps/renderer': ['timeline', 'compositor', 'sound', 'interchange', 'media', 'store'],
  'apps/studio': ['timeline', 'compositor', 'sound', 'interchange', 'media', 'store'],
  demo: ['timeline', 'media'],
}
const NAMES = ['timeline', 'compositor', 'sound', 'interchange', 'store', 'media', 'renderer', 'studio', 'demo']

const roomRules = Object.entries(ROOMS).map(([room, allowed]) => ({
  files: [`${room}/**/*.{ts,vue}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            regex: `^@dusk/(${NAMES.filter((name) => !allowed.includes(name)).join('|')})(/|$)`,
            message: `${room} may import ${allowed.length > 0 ? allowed.map((name) => `@dusk/${name}`).join(', ') : 'no other room'}.`,
          },
          // The pure rooms run in the browser and in Node alike.
          ...(['packages/timeline', 'packages/compositor', 'packages/sound', 'packages/interchange'].includes(room)
            ? [{ regex: '^node:', message: `${room} is pure: it runs in a browser too.` }]
            : []),
        ],
      },
    ],
  },
}))

export default createConfigForNuxt({ features: { stylistic: false } }).append(
  {
    ignores: [
      '**/.nuxt/**',
      '**/.output/**',
      '**/build/**',
      'data/**',
      'packages/compositor/kernels/**',
      'packages/store/migrations/**',
      'test-results/**',
    ],
  },
  { files: ['**/*.{ts,vue,mts}'], plugins: { '@typescript-eslint': tseslint.plugin } },
  ...roomRules,
  {
    files: ['packages/{timeline,compositor,sound,interchange}/test/**', '{packages,apps}/*/test/**'],
    rules: { 'no-restricted-imports': 'off' },
  },
  {
    rules: {
      'vue/multi-word-component-names': 'off',
      'vue/html-self-closing': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/attributes-order': 'off',
      'vue/require-default-prop': 'off',
      '@typescript-eslint/unified-signatures': 'off',
      'import/no-duplicates': 'off',
      '@typescript-eslint/no-dynamic-delete': 'off',
      'no-console': ['error', { allow: ['error', 'log'] }],
      // Prettier breaks what it can; texts and lists of classes it can't break are let be.
      'max-len': [
        'error',
        { code: 120, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignorePattern: 'class="' },
      ],
      'vue/max-len': 'off',
    },
  },
)
