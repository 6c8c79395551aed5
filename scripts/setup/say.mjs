/** Stops with words instead of a stack: what happened, what is safe, what to do. */
export class ShownError extends Error {}

export function step(text) {
  console.log(`· ${text}`);
}

/** Runs a script's main function; a `ShownError` ends it with its text alone. */
export async function main(run) {
  try {
    await run();
  } catch (error) {
    console.error(error instanceof ShownError ? `\n${error.message}\n` : error);
    process.exitCode = 1;
  }
}
