import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

export default ts.config(
  { ignores: ['.svelte-kit/', 'build/', 'node_modules/', 'src/lib/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.strict,
  ...svelte.configs.recommended,
  { languageOptions: { globals: { ...globals.browser, ...globals.node } } },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: {
      parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'], svelteConfig }
    }
  },
  {
    rules: {
      // Served from the root, always: there is no base path to resolve.
      'svelte/no-navigation-without-resolve': 'off',
      // Maps here are replaced whole ($state.raw) or hold timers, which nothing renders.
      'svelte/prefer-svelte-reactivity': 'off',
      '@typescript-eslint/no-dynamic-delete': 'off'
    }
  }
);
