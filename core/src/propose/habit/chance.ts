/** So many separators that tell nothing, as telling as this one, stand against one that does. */
const OF_CHANCE = 3;
/** From here on chance is out of the question. */
export const MOST_BEYOND = 30;

/**
 * How far uncertainty that something takes away is beyond what chance would, were it to tell nothing of the account:
 * minus the natural logarithm of the probability of as much, for the best of so many that were tried. Twice the nats are
 * distributed like chi-square with one degree of freedom less than accounts (Wilks), whose tail is taken from a
 * normal distribution (Wilson and Hilferty).
 *
 * @param nats what is taken away over all decisions
 * @returns from 0, where chance makes one as good, to {@link MOST_BEYOND}
 */
export function beyondChance(nats: number, accounts: number, tried: number): number {
  const degrees = accounts - 1;
  const spread = 2 / (9 * degrees);
  const z = (Math.cbrt((2 * nats) / degrees) - (1 - spread)) / Math.sqrt(spread);
  const beyond = minusLogTail(z) - Math.log(tried);
  return Math.min(MOST_BEYOND, Math.max(0, beyond));
}

/** What is left of how telling something is, the more of it chance may have made. */
export function withoutChance(gain: number, beyond: number): number {
  return gain / (1 + OF_CHANCE * Math.exp(-beyond));
}

/** Minus the natural logarithm of the probability that a normal deviate exceeds `z`, which is taken as a half below 0. */
function minusLogTail(z: number): number {
  if (z < 0) return Math.LN2;
  // Mills' ratio between its bounds (Birnbaum, Sampford); within a twentieth of a nat.
  return (z * z) / 2 + Math.log(z * Math.sqrt(Math.PI / 2) + Math.sqrt((z * z * Math.PI) / 2 + 4));
}
