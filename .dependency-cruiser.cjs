/** Which part may use which. `e2e/src/api/…` and `scripts/structure.test.ts` plant a violation and see it caught. */
const TESTS = '\\.test\\.tsx?$|^core/tests/';

module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'core-is-pure',
      comment: 'no Node, no ORM, no React, no Zod: only these three libraries',
      severity: 'error',
      from: { path: '^core/src', pathNot: TESTS },
      to: { pathNot: '^core/src|node_modules/(temporal-polyfill|temporal-spec|libphonenumber-js)' },
    },
    {
      name: 'contracts-need-core-and-zod',
      severity: 'error',
      from: { path: '^contracts/src', pathNot: TESTS },
      to: { pathNot: '^contracts/src|^core/src|node_modules/zod' },
    },
    {
      name: 'features-meet-through-index',
      severity: 'error',
      from: { path: '^server/src/features/([^/]+)/' },
      to: { path: '^server/src/features/([^/]+)/', pathNot: '^server/src/features/$1/|/index\\.ts$' },
    },
    {
      name: 'web-features-meet-through-index',
      severity: 'error',
      from: { path: '^web/src/(staff|patient)/features/([^/]+)/' },
      to: {
        path: '^web/src/$1/features/([^/]+)/',
        pathNot: '^web/src/$1/features/$2/|/index\\.ts$|/accounts\\.api\\.ts$',
      },
    },
    {
      name: 'platform-knows-no-feature',
      severity: 'error',
      from: { path: '^server/src/platform' },
      to: { path: '^server/src/features' },
    },
    {
      name: 'express-in-platform-only',
      severity: 'error',
      from: { path: '^server/src', pathNot: '^server/src/(platform|app\\.ts|main\\.ts)' },
      to: { path: 'node_modules/express', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'orm-in-its-places',
      severity: 'error',
      from: {
        path: '^server/src',
        pathNot: '^server/src/(platform|schema|migrations|prepare\\.ts)|\\.repository\\.ts$',
      },
      to: { path: 'node_modules/@mikro-orm' },
    },
    {
      name: 'schema-below-all',
      comment: 'the tables know nothing of those who read and write them',
      severity: 'error',
      from: { path: '^server/src/schema' },
      to: { pathNot: '^server/src/schema|^core/src|^contracts/src|node_modules/@mikro-orm' },
    },
    {
      name: 'web-never-imports-server',
      severity: 'error',
      from: { path: '^web/src' },
      to: { path: '^(server|demo|e2e)/' },
    },
    {
      name: 'patient-and-staff-apart',
      severity: 'error',
      from: { path: '^web/src/(staff|patient)/' },
      to: { path: '^web/src/(staff|patient)/', pathNot: '^web/src/$1/' },
    },
    {
      name: 'shared-knows-neither',
      severity: 'error',
      from: { path: '^web/src/shared' },
      to: { path: '^web/src/(staff|patient)' },
    },
    {
      name: 'no-test-code-in-production',
      severity: 'error',
      from: { path: '^(core|contracts|server|web|demo)/src', pathNot: TESTS },
      to: { path: `${TESTS}|^e2e/|node_modules/(vitest|fast-check|puppeteer-core|axe-core)` },
    },
    {
      name: 'no-outside-of-workspaces',
      severity: 'error',
      from: { path: '^(core|contracts|server|web|demo)/src' },
      to: { couldNotResolve: true, pathNot: '\\.css$|^@fontsource|^fhir/' },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '/dist/' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.json'],
    },
  },
};
