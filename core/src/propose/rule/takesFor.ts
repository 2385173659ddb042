import { wordingFeatures } from '../habit/features.ts';
import type { Difference } from '../habit/separators.ts';
import type { Condition, RuleTakes } from './rule.ts';
import { type RuleLine, rawText } from './ruleLine.ts';

/** A word on so many of the lines is a stable part of their wording. */
const STABLE = 0.9;
const MOST_WORDS = 3;
/** Where no word is stable, so many wordings are looked for instead. */
const MOST_WORDINGS = 6;

/**
 * Conditions that take lines like some: their direction, and the stable part of their wording, without what
 * changes from line to line (numbers, references, dates) and without words that stand with many payees.
 *
 * @param isCommon whether a word stands with many payees
 * @example two lines CRD PUR TIDEMARK FRT 20318 and CRD PUR TIDEMARK FRT 20977: out, has “tidemark frt”
 */
export function takesFor(
  lines: readonly RuleLine[],
  isCommon: (word: string) => boolean,
): RuleTakes {
  const outs = lines.filter(({ facts }) => facts.amount < 0).length;
  const side = { direction: outs === lines.length ? 'out' : outs === 0 ? 'in' : 'either' } as const;
  const phrases = stablePhrases(lines, isCommon);
  if (phrases.length > 0) {
    return { ...side, bankAccountIds: null, match: 'all', conditions: phrases.map(hasWords) };
  }
  const wordings = new Map<string, number>();
  for (const line of lines) {
    const [phrase] = stablePhrases([line], isCommon);
    if (phrase !== undefined) wordings.set(phrase, (wordings.get(phrase) ?? 0) + 1);
  }
  const often = [...wordings].sort((a, b) => b[1] - a[1]).slice(0, MOST_WORDINGS);
  const conditions = often.map(([phrase]) => hasWords(phrase));
  return { ...side, bankAccountIds: null, match: 'any', conditions };
}

const hasWords = (words: string): Condition => ({
  kind: 'text',
  field: 'wording',
  test: 'has',
  text: words.toLowerCase(),
  isExact: false,
});

/** Runs of words that all or nearly all lines have; words that many payees have only where there are no others. */
function stablePhrases(
  lines: readonly RuleLine[],
  isCommon: (word: string) => boolean,
): readonly string[] {
  const [first] = lines;
  if (!first) return [];
  const counts = new Map<string, number>();
  const padded = lines.map(({ plain }) => plain.wording);
  const own = lines.map(({ facts }) => wordingFeatures(rawText(facts, 'wording')).words);
  for (const words of own) for (const word of words) counts.set(word, (counts.get(word) ?? 0) + 1);
  const least = STABLE * lines.length;
  const isWhole = (word: string) =>
    word.length > 1 && padded.filter((text) => text.includes(` ${word} `)).length >= least;
  const fullest = own.reduce((best, words) => (words.length > best.length ? words : best), []);
  const stable = fullest.filter((word) => (counts.get(word) ?? 0) >= least && isWhole(word));
  const telling = stable.filter((word) => !isCommon(word));
  const phrases: string[] = [];
  for (const word of telling.length > 0 ? telling : stable) {
    const longer = `${phrases.at(-1) ?? ''} ${word}`;
    const isTogether =
      phrases.length > 0 && padded.filter((text) => text.includes(` ${longer} `)).length >= least;
    if (isTogether) phrases[phrases.length - 1] = longer;
    else phrases.push(word);
  }
  return phrases.slice(0, MOST_WORDS);
}

/**
 * Conditions with one more that sets apart the lines on one side of what separates a payee's accounts.
 *
 * @param isInside the side: with the word or number, up to the amount, paid out, or on the bank account
 * @param otherBanks the bank accounts of the other side
 */
export function narrowed(
  takes: RuleTakes,
  separator: Difference,
  isInside: boolean,
  otherBanks: readonly string[],
): RuleTakes {
  switch (separator.kind) {
    case 'direction':
      return { ...takes, direction: isInside ? 'out' : 'in' };
    case 'bankAccount':
      return { ...takes, bankAccountIds: isInside ? [separator.bankAccountId] : otherBanks };
    case 'amount': {
      const { limit } = separator;
      const band = isInside ? { from: null, to: limit } : { from: limit + 1, to: null };
      return withCondition(takes, { kind: 'amount', ...band });
    }
    case 'day': {
      const { limit } = separator;
      const band = isInside ? { from: 1, to: limit } : { from: limit + 1, to: 31 };
      return withCondition(takes, { kind: 'day', ...band });
    }
    case 'weekday':
    case 'cents':
      return takes;
    case 'number':
    case 'word': {
      const said = hasWords(separator.kind === 'number' ? separator.number : separator.word);
      const isThere = takes.conditions.some((each) => sameText(each, said));
      if (isInside && isThere) return takes;
      return withCondition(takes, isInside ? said : ({ ...said, test: 'hasNot' } as Condition));
    }
  }
}

function sameText(a: RuleTakes['conditions'][number], b: Condition): boolean {
  return (
    a.kind === 'text' &&
    b.kind === 'text' &&
    a.test === b.test &&
    ` ${a.text} `.includes(` ${b.text} `)
  );
}

/** All that held before must hold, and the condition too. */
function withCondition(takes: RuleTakes, condition: Condition): RuleTakes {
  if (takes.match === 'all' || takes.conditions.length < 2) {
    return { ...takes, match: 'all', conditions: [...takes.conditions, condition] };
  }
  const simple = takes.conditions.flatMap((each) =>
    each.kind === 'group' ? each.conditions : each,
  );
  return {
    ...takes,
    match: 'all',
    conditions: [{ kind: 'group', match: 'any', conditions: simple }, condition],
  };
}
