import { writeFileSync } from 'node:fs';

const REASON_LINES = 10;

/** The beginning of what was thrown, without the colors of a terminal. */
function reasonOf(errors) {
  return (errors ?? [])
    .flatMap(({ name, message, stack }) => {
      // biome-ignore lint/suspicious/noControlCharactersInRegex: the colors are what is taken away.
      const plain = `${name ?? 'Error'}: ${message}`.replace(/\u001b\[[0-9;]*m/g, '');
      const place = (stack ?? '').split('\n').find((line) => /\.test\.ts|fixtures/.test(line));
      return [...plain.split('\n').slice(0, REASON_LINES), ...(place ? [place.trim()] : [])];
    })
    .map((line) => `\n    ${line}`)
    .join('');
}

/**
 * A Vitest reporter that writes what failed and why, a list of texts as JSON, to ZAGUAN_FAILURES.
 * Vitest's own JSON names the tests behind a failed hook as skipped and never says what the hook threw.
 */
export default class FailureReporter {
  onTestRunEnd(modules, unhandled) {
    const failures = [];
    for (const module of modules) {
      const add = (what, errors) => {
        if (errors?.length) failures.push(`${what}${reasonOf(errors)}`);
      };
      add(module.relativeModuleId, module.errors());
      for (const suite of module.children.allSuites()) add(`around ${suite.fullName}`, suite.errors());
      for (const test of module.children.allTests()) {
        const { state, errors } = test.result();
        if (state !== 'passed') failures.push(`${state}: ${test.fullName}${reasonOf(errors)}`);
      }
    }
    if (unhandled.length) failures.push(`an error outside its tests${reasonOf(unhandled)}`);
    writeFileSync(process.env.ZAGUAN_FAILURES, JSON.stringify(failures));
  }
}
