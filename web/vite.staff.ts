import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  root: `${import.meta.dirname}/src/staff`,
  plugins: [react(), tailwindcss()],
  build: { outDir: `${import.meta.dirname}/dist/staff`, emptyOutDir: true },
});
