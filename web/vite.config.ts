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
    rollupOptions: { input: ['index.html', 'phone.html'] },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:5240' } },
});
