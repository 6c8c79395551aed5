import { defineConfig } from 'vite';

/** With a native part, threads or files of their own, or that look for what they need by themselves: read where they lie. */
const AS_THEY_ARE = ['@node-rs/argon2', 'pino', 'piscina', 'swagger-ui-dist', 'umzug'];
/** What the query builder asks for only when it speaks to another database than PostgreSQL; none of it is installed. */
const OTHER_DATABASES = [
  'better-sqlite3',
  'mysql',
  'mysql2',
  'oracledb',
  'sqlite3',
  'tedious',
  'pg-query-stream',
  'pg-native',
];

// The server and what it is made of in few files, packages too: it starts in a second instead of five.
export default defineConfig({
  root: import.meta.dirname,
  ssr: { noExternal: true, external: AS_THEY_ARE },
  build: {
    ssr: true,
    rolldownOptions: {
      // Beside each other, whatever shares what: the program looks for its threads' and the pages by where it lies.
      output: { chunkFileNames: '[name]-[hash].js' },
      input: {
        main: 'src/main.ts',
        serve: 'src/serve.ts',
        migrate: 'src/migrate.ts',
        heavyWorker: 'src/heavyWorker.ts',
      },
      external: OTHER_DATABASES,
    },
    outDir: 'dist',
    emptyOutDir: true,
    target: 'node20',
    minify: false,
    sourcemap: true,
  },
});
