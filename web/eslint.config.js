import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['node_modules', 'src/api/schema.d.ts', 'public'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  hooks.configs.flat['recommended-latest'],
  {
    languageOptions: { globals: globals.browser },
    // Rules for the React compiler, which is not used here.
    rules: { 'react-hooks/immutability': 'off', 'react-hooks/preserve-manual-memoization': 'off' },
  },
);
