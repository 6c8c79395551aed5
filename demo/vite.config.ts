import { defineConfig } from 'vite';

// The clinic's loader as the start command runs it, built as the server is.
export default defineConfig({
  root: import.meta.dirname,
  ssr: { noExternal: [/^@zaguan\//] },
  build: {
    ssr: true,
    rolldownOptions: { input: { load: 'src/load.ts', loadScale: 'src/loadScale.ts', reset: 'src/reset.ts' } },
    outDir: 'dist',
    emptyOutDir: true,
    target: 'node20',
    minify: false,
    sourcemap: true,
  },
});
