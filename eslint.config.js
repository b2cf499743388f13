import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

// What is shown and its routes; all else is read by oxlint (.oxlintrc.json), which knows no Svelte but is forty times as fast.

/** The layers: an arrow points down only (routes → lib, server → core). */
const below = (/** @type {string[]} */ groups, /** @type {string} */ why) => [
  'error',
  { patterns: groups.map((regex) => ({ regex, message: why })) },
];
export default ts.config(
  { ignores: ['.svelte-kit/', 'build/', '.data/', 'node_modules/', 'test-results/', 'playwright-report/'] },
  js.configs.recommended,
  ...ts.configs.strict,
  ...svelte.configs.recommended,
  {
    languageOptions: { globals: { ...globals.node, ...globals.browser } },
    rules: {
      'no-undef': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      'svelte/no-navigation-without-resolve': 'off',
      eqeqeq: 'error',
    },
  },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'], svelteConfig } },
  },
  {
    files: ['src/lib/**/*.{ts,svelte}'],
    rules: {
      'no-restricted-imports': below(
        ['^(pg|node:|\\$server)', '/(server|routes)/'],
        'src/lib runs in the browser: it stands on core alone.',
      ),
    },
  },
  {
    files: ['src/routes/**/*.ts'],
    rules: {
      'no-restricted-imports': below(['^pg$'], 'No SQL in routes: call a module of src/server.'),
    },
  },
  {
    files: ['src/**/*.svelte'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "VariableDeclaration[kind='let'] > VariableDeclarator[init.callee.name='$derived']",
          message:
            'What is written over a derived value is lost when the page loads its data anew: use Proposed.',
        },
        // on a page that came whole from the server the first load of its data sets such a field back (docs/decisions.md)
        ...[
          ['value', 'defaultValue', '/^(hidden|radio|checkbox|submit)$/', ':not'],
          ['checked', 'defaultChecked', "'checkbox'", ''],
        ].map(([name, instead, kinds, not]) => ({
          selector:
            `SvelteElement[name.name='input'] > SvelteStartTag:not(:has(SvelteAttribute[key.name=/^on/]))` +
            `${not || ':matches'}(:has(SvelteAttribute[key.name='type'] > SvelteLiteral[value=${kinds}])) > ` +
            `:matches(SvelteAttribute[key.name='${name}']:has(SvelteMustacheTag), SvelteShorthandAttribute[key.name='${name}'])`,
          message: `What somebody typed is lost when the page loads its data anew: use ${instead}.`,
        })),
      ],
    },
  },
  {
    files: ['src/routes/**/*.svelte'],
    rules: {
      'no-restricted-imports': below(['^(pg|node:|\\$server)'], 'A page runs in the browser.'),
    },
  },
);
