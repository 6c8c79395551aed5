import { defineConfig } from 'vite';

// Measured as it runs in production: built, without the loader that tests and tools read TypeScript with.
export default defineConfig({
  root: import.meta.dirname,
  ssr: { noExternal: [/^@zaguan\//] },
  build: {
    ssr: true,
    rolldownOptions: { input: { main: 'src/main.ts' } },
    outDir: 'dist',
    emptyOutDir: true,
    target: 'node20',
    minify: false,
    sourcemap: true,
  },
});
