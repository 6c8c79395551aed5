import { ensureChromium, ensurePostgres } from './install.mjs';
import { main } from './say.mjs';

/** Debian's packages for the tests, as a process of its own: they are fetched while npm fetches its own. */
await main(async () => {
  ensurePostgres();
  ensureChromium();
});
