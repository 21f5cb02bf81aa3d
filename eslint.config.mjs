import regexp from 'eslint-plugin-regexp'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

/** Which of our folders each folder may import: the arrows of docs/architecture.md. */
const arrows = {
  core: [],
  shared: ['core'],
  intake: ['core'],
  voices: ['core'],
  takes: ['core'],
  reading: ['core', 'voices', 'takes'],
  press: ['core', 'takes'],
  store: ['core', 'shared', 'voices', 'takes'],
  services: ['core', 'shared', 'voices', 'takes', 'press', 'store'],
  server: ['core', 'shared', 'intake', 'voices', 'takes', 'reading', 'press', 'store', 'services'],
  worker: ['core', 'intake', 'voices', 'takes', 'reading', 'press', 'store'],
  cli: ['core', 'intake', 'voices', 'takes', 'reading', 'press'],
  app: ['core', 'shared'],
  bench: ['core', 'shared', 'intake', 'voices', 'takes', 'reading', 'press'],
}

const folders = Object.keys(arrows)

/** Deepest folder that has sources, below its own. */
const deepest = 7

/** The rules of a folder, one for each depth: so many steps up leave it. */
export function boundary(folder) {
  const forbidden = folders.filter(other => other !== folder && !arrows[folder].includes(other))
  return Array.from({ length: deepest }, (_, depth) => ({
    files: [`${folder}/${'*/'.repeat(depth)}*.{ts,vue}`],
    rules: {
      'no-restricted-imports': ['error', {
        patterns: [
          {
            regex: `^(?:#|~~/|(?:\\.\\./){${depth + 1},})(?:${forbidden.join('|')})(?:/|$)`,
            message: `${folder}/ may import only: ${arrows[folder].join(', ') || 'nothing of ours'} (docs/architecture.md).`,
          },
          ...(folder === 'core' || folder === 'shared'
            ? [{ regex: '^node:', message: `${folder}/ uses no Node API.` }]
            : []),
        ],
      }],
    },
  }))
}

export default tseslint.config(
  { ignores: ['node_modules/**', '.nuxt/**', '.output/**', 'dist/**', 'var/**', 'docs/**'] },
  ...tseslint.configs.strict,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  {
    plugins: { regexp },
    rules: {
      // A pattern that meets a user's text must not take longer than the text is long.
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-unused-expressions': ['error', { allowTernary: true }],
      '@typescript-eslint/consistent-type-imports': 'error',
      'eqeqeq': 'error',
      'no-undef': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/html-indent': 'off',
    },
  },
  ...folders.flatMap(boundary),
)
