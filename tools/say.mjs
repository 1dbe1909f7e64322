/** A line to the person at the terminal. */
export const say = (text) => process.stdout.write(`${text}\n`);

/** Ends with a message a person can act on. */
export class Stop extends Error {}

/** Runs a script's main function; a `Stop` is its message, anything else is a bug and keeps its trace. */
export async function run(main) {
  try {
    await main();
  } catch (error) {
    process.stderr.write(error instanceof Stop ? `\n${error.message}\n` : `${error.stack ?? error}\n`);
    process.exit(1);
  }
}
