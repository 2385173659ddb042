/** Whether everything is run on very little, only to see that it runs: `npm run bench -- --tiny`. */
export const isTiny = process.argv.includes('--tiny');

/** A size for measuring, or a very small one where all that matters is that it runs. */
export function sized<T>(full: T, tiny: T): T {
  return isTiny ? tiny : full;
}
