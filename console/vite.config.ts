import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

// The built console lies in the module's classes, so that its jar serves it from static/.
export default defineConfig({
  plugins: [react()],
  build: { outDir: 'target/classes/static', emptyOutDir: true, chunkSizeWarningLimit: 600 },
  server: { proxy: { '/api': 'http://127.0.0.1:8640' } },
  test: {
    environment: 'jsdom',
    // one page for all files of a process: making one takes longer than most of them
    isolate: false,
    include: ['src/**/*.test.{ts,tsx}'],
    setupFiles: ['src/lib/patience.ts'],
    testTimeout: 60_000,
  },
});
