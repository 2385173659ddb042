import type { HabitLine } from './features.ts';
import type { Example } from './memory.ts';

/** What tells apart the accounts of one payee. */
export type Separator = { readonly gain: number } & (
  | { readonly kind: 'word'; readonly word: string }
  | { readonly kind: 'direction' }
  | { readonly kind: 'bankAccount'; readonly bankAccountId: string }
  | { readonly kind: 'amount'; readonly limit: number }
  /** Up to this day of the month, and after it. */
  | { readonly kind: 'day'; readonly limit: number }
);

/** So many separators are looked at. */
const MOST = 3;
/** Fewer decisions prove nothing, and older ones than the newest few say nothing new. */
const LEAST = 4;
const NEWEST = 120;
/** How much of the uncertainty chance takes away by itself, times the number of decisions. */
const BY_CHANCE = 0.7;
/** Less is no separator, and none is ever taken to be perfect. */
const LEAST_GAIN = 0.2;
const MOST_GAIN = 0.97;
/** The day of the month is seldom the reason: it must tell much, over more decisions. */
const LEAST_GAIN_OF_DAY = 0.5;
const LEAST_OF_DAY = 8;

/** On which side of a separator a line lies. */
export function sideOf(
  separator: Separator,
  line: Pick<HabitLine, 'amount' | 'bankAccountId'> & { readonly monthDay: number },
  words: readonly string[],
): boolean {
  switch (separator.kind) {
    case 'word':
      return words.includes(separator.word);
    case 'direction':
      return line.amount < 0;
    case 'bankAccount':
      return line.bankAccountId === separator.bankAccountId;
    case 'amount':
      return Math.abs(line.amount) <= separator.limit;
    case 'day':
      return line.monthDay <= separator.limit;
  }
}

/**
 * What tells the accounts of one payee's decisions apart, by the share of uncertainty about the account
 * that it takes away (information gain over entropy), the most telling first.
 */
export function separatorsOf(all: readonly Example[]): readonly Separator[] {
  const examples = all.slice(-NEWEST);
  const whole = entropyOf(examples);
  if (examples.length < LEAST || whole === 0) return [];
  const found: Separator[] = [];
  const consider = (separator: Separator): void => {
    const inside: Example[] = [];
    const outside: Example[] = [];
    for (const example of examples) {
      (sideOf(separator, example, example.words) ? inside : outside).push(example);
    }
    if (inside.length < 2 || outside.length < 2) return;
    const left =
      (inside.length * entropyOf(inside) + outside.length * entropyOf(outside)) / examples.length;
    const chance = BY_CHANCE / examples.length / whole;
    const gain = (whole - left) / whole - chance;
    const least = separator.kind === 'day' ? LEAST_GAIN_OF_DAY : LEAST_GAIN;
    if (gain > least) found.push({ ...separator, gain: Math.min(MOST_GAIN, gain) });
  };
  consider({ kind: 'direction', gain: 0 });
  for (const bankAccountId of new Set(examples.map(({ bankAccountId: each }) => each))) {
    consider({ kind: 'bankAccount', bankAccountId, gain: 0 });
  }
  for (const word of new Set(examples.flatMap(({ words }) => words))) {
    consider({ kind: 'word', word, gain: 0 });
  }
  const sizes = [...new Set(examples.map(({ amount }) => Math.abs(amount)))].sort((a, b) => a - b);
  sizes.slice(0, -1).forEach((size, at) => {
    const limit = Math.round(Math.sqrt(size * (sizes[at + 1] ?? size)));
    consider({ kind: 'amount', limit, gain: 0 });
  });
  if (examples.length >= LEAST_OF_DAY) {
    for (const limit of new Set(examples.map(({ monthDay }) => monthDay))) {
      consider({ kind: 'day', limit, gain: 0 });
    }
  }
  found.sort((a, b) => b.gain - a.gain);
  // Of limits that lie beside each other one is enough.
  const more = (['amount', 'day'] as const).flatMap((kind) =>
    found.filter((separator) => separator.kind === kind).slice(1),
  );
  return found.filter((separator) => !more.includes(separator)).slice(0, MOST);
}

function entropyOf(examples: readonly Example[]): number {
  const counts = new Map<string, number>();
  for (const { accountId } of examples) counts.set(accountId, (counts.get(accountId) ?? 0) + 1);
  let entropy = 0;
  for (const count of counts.values()) {
    const share = count / examples.length;
    entropy -= share * Math.log(share);
  }
  return entropy;
}
