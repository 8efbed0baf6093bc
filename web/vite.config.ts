import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    outDir: '../src/Nachlass.Web/wwwroot',
    emptyOutDir: true,
    chunkSizeWarningLimit: 700,
    rollupOptions: { input: ['index.html', 'phone.html'] },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:5240' } },
});
