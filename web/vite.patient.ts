import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// A build of its own: sharing one with staff makes the patient's page carry the staff's parts.
export default defineConfig({
  root: `${import.meta.dirname}/src/patient`,
  base: '/book/',
  plugins: [react(), tailwindcss()],
  build: { outDir: `${import.meta.dirname}/dist/patient`, emptyOutDir: true },
});
