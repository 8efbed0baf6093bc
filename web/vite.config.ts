import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    outDir: '../src/Nachlass.Web/wwwroot',
    emptyOutDir: true,
    // A worker may fetch files of ours and nothing else, not even what is written in an address.
    assetsInlineLimit: (file) => (/\.(aff|dic)$/.test(file) ? false : undefined),
    chunkSizeWarningLimit: 700,
    rolldownOptions: {
      input: ['index.html', 'phone.html'],
      output: {
        strictExecutionOrder: true,
        codeSplitting: {
          groups: [
            // What runs first waits for nothing.
            { name: 'first', test: /early\.ts$|preload-helper/, priority: 1 },
            {
              // What several screens share, in a few files: of forty small ones each waits for some of the others.
              name: 'shared',
              test: /[\\/](src|node_modules)[\\/].*\.[jt]sx?$/,
              minShareCount: 2,
              entriesAware: true,
              entriesAwareMergeThreshold: 40_000,
            },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:5240' } },
});
