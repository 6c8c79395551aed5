/** Stops with words instead of a stack: what happened, what is safe, what to do. */
export class Told extends Error {}

export function step(text) {
  console.log(`· ${text}`);
}

/** Runs a script's main function; a `Told` error ends it with its text alone. */
export async function main(run) {
  try {
    await run();
  } catch (error) {
    console.error(error instanceof Told ? `\n${error.message}\n` : error);
    process.exitCode = 1;
  }
}
