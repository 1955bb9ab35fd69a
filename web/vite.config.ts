import { basename } from 'node:path';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';

export default defineConfig({
  plugins: [react({ compiler: true })],
  resolve: { conditions: ['@ruvet/source', ...defaultClientConditions] },
  css: {
    modules: {
      localsConvention: 'camelCaseOnly',
      // told by component and class: what a browser's tools show can be found
      generateScopedName: (name, file) => `${basename(file).replace('.module.css', '')}_${name}`,
    },
  },
  build: { chunkSizeWarningLimit: 1500 },
  server: { proxy: { '/api': 'http://127.0.0.1:4170' } },
});
