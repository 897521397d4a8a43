import { createConfigForNuxt } from '@nuxt/eslint-config/flat'
import tseslint from 'typescript-eslint'

/** Rooms from the ground up; each may import those before it and itself. See docs/architecture.md. */
const ROOMS = {
  'packages/timeline': [],
  'packages/compositor': ['timeline'],
  'packages/sound': ['timeline'],
  'packages/interchange': ['timeline'],
  'packages/store': ['timeline', 'interchange'],
  'packages/media': ['timeline', 'sound', 'interchange'],
  'apps/renderer': ['timeline', 'compositor', 'sound', 'interchange', 'media', 'store'],
  'apps/board': ['interchange'],
  'apps/studio': ['timeline', 'compositor', 'sound', 'interchange', 'media', 'store'],
  demo: ['timeline', 'sound', 'media'],
}
const NAMES = [
  'timeline',
  'compositor',
  'sound',
  'interchange',
  'store',
  'media',
  'renderer',
  'board',
  'studio',
  'demo',
]

/** The studio's features from the ground up; each may import those before it. See docs/architecture.md. */
const FEATURES = [
  ...['registry', 'ui', 'project', 'player', 'shortcuts', 'timeline', 'source', 'params', 'keyframes', 'markers'],
  ...[
    'history',
    'transitions',
    'effects',
    'sound',
    'speed',
    'titles',
    'viewer',
    'library',
    'voiceover',
    'stock',
    'storyboard',
    'posting',
    'render',
    'projects',
    'desk',
  ],
]

function roomPatterns(room, allowed) {
  const others = NAMES.filter((name) => !allowed.includes(name)).join('|')
  const may = allowed.length > 0 ? allowed.map((name) => `@dusk/${name}`).join(', ') : 'no other room'
  // The pure rooms run in the browser and in Node alike.
  const pure = ['packages/timeline', 'packages/compositor', 'packages/sound', 'packages/interchange'].includes(room)
  return [
    { regex: `^@dusk/(${others})(/|$)`, message: `${room} may import ${may}.` },
    ...(pure ? [{ regex: '^node:', message: `${room} is pure: it runs in a browser too.` }] : []),
  ]
}
const restricted = (files, patterns) => ({ files, rules: { 'no-restricted-imports': ['error', { patterns }] } })

const roomRules = Object.entries(ROOMS).map(([room, allowed]) =>
  restricted([`${room}/**/*.{ts,vue}`], roomPatterns(room, allowed)),
)
const featureRules = FEATURES.map((feature, place) =>
  restricted(
    [`apps/studio/app/features/${feature}/**/*.{ts,vue}`],
    [
      ...roomPatterns('apps/studio', ROOMS['apps/studio']),
      {
        regex: `^~/features(/(${[...FEATURES.slice(place + 1), 'index'].join('|')})(/|$)|$)`,
        message: `${feature} is used by that feature and cannot use it; what both need belongs further down.`,
      },
    ],
  ),
)

export default createConfigForNuxt({ features: { stylistic: false } }).append(
  {
    ignores: [
      '**/.nuxt/**',
      '**/.output/**',
      '**/build/**',
      'data/**',
      'packages/{compositor,sound}/kernels/**',
      'packages/store/migrations/**',
      'test-results/**',
    ],
  },
  { files: ['**/*.{ts,vue,mts}'], plugins: { '@typescript-eslint': tseslint.plugin } },
  ...roomRules,
  ...featureRules,
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
        {
          code: 120,
          ignoreStrings: true,
          ignoreTemplateLiterals: true,
          ignoreRegExpLiterals: true,
          ignorePattern: 'class="',
        },
      ],
      'vue/max-len': 'off',
    },
  },
)
