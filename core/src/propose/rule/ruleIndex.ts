import { plainWording } from '../../text/plainWording.ts';
import { type Holds, takesOf, wildWords } from './conditions.ts';
import type { Condition, ConditionGroup, RuleTakes } from './rule.ts';
import type { RuleLine } from './ruleLine.ts';

/** Finds which of many rules take a line, without testing each of them. */
export interface RuleIndex {
  /** The place of the first rule that takes a line; −1 where none does. */
  readonly first: (line: RuleLine) => number;
  /** The places of all rules that take a line, in their order. */
  readonly all: (line: RuleLine) => readonly number[];
}

/** A rule that can only take lines with a word, or with an amount in a band. */
interface Listed {
  readonly place: number;
  readonly holds: Holds;
}
interface Banded extends Listed {
  readonly from: number;
  readonly to: number;
}

/**
 * Indexes rules, given in their order: by a word that each needs, else by the amounts that it takes. Only
 * rules with neither are tested on every line.
 */
export function indexRules(rules: readonly { readonly takes: RuleTakes }[]): RuleIndex {
  const needs = rules.map(({ takes }) => neededWords(takes));
  const uses = new Map<string, number>();
  for (const words of needs.flat(2)) uses.set(words, (uses.get(words) ?? 0) + 1);
  const byWord = new Map<string, Listed[]>();
  const byAmount: Banded[] = [];
  const others: Listed[] = [];
  rules.forEach(({ takes }, place) => {
    const listed = { place, holds: takesOf(takes) };
    const wanted = rarest(needs[place] ?? [], uses);
    if (wanted !== null) {
      for (const word of wanted) {
        const known = byWord.get(word);
        if (!known) byWord.set(word, [listed]);
        else if (known.at(-1) !== listed) known.push(listed);
      }
      return;
    }
    const band = amountBand(takes);
    if (band) byAmount.push({ ...listed, ...band });
    else others.push(listed);
  });
  byAmount.sort((a, b) => a.from - b.from);
  /** The highest bound of a rule and all before it: where it is too low, none of them can hold. */
  const highest: number[] = [];
  for (const { to } of byAmount) highest.push(Math.max(to, highest.at(-1) ?? to));

  /** Calls with each rule that may take a line. */
  function candidates(line: RuleLine, visit: (listed: Listed) => void): void {
    if (byWord.size > 0) {
      const text = line.plain.wording;
      let start = 1;
      for (let end = text.indexOf(' ', 1); end > 0; end = text.indexOf(' ', start)) {
        const found = byWord.get(text.slice(start, end));
        if (found) for (const listed of found) visit(listed);
        start = end + 1;
      }
    }
    const size = Math.abs(line.facts.amount);
    for (let at = lastFrom(byAmount, size); at >= 0; at -= 1) {
      if ((highest[at] ?? 0) < size) break;
      const banded = byAmount[at];
      if (banded && banded.to >= size) visit(banded);
    }
    for (const listed of others) visit(listed);
  }

  return {
    first(line) {
      let best = rules.length;
      candidates(line, ({ place, holds }) => {
        if (place < best && holds(line)) best = place;
      });
      return best === rules.length ? -1 : best;
    },
    all(line) {
      const found = new Set<number>();
      candidates(line, ({ place, holds }) => {
        if (!found.has(place) && holds(line)) found.add(place);
      });
      return [...found].sort((a, b) => a - b);
    },
  };
}

/** The last of the bands, sorted by where they begin, that begins at a size or below; −1 where none does. */
function lastFrom(bands: readonly Banded[], size: number): number {
  let low = 0;
  let high = bands.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((bands[middle]?.from ?? 0) <= size) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** Of several sets of words, each of which is needed, the one whose words the fewest rules look for. */
function rarest(
  sets: readonly (readonly string[])[],
  uses: ReadonlyMap<string, number>,
): readonly string[] | null {
  const costOf = (words: readonly string[]) =>
    Math.max(...words.map((word) => (uses.get(word) ?? 0) - word.length / 100));
  let best: readonly string[] | null = null;
  for (const words of sets) if (best === null || costOf(words) < costOf(best)) best = words;
  return best;
}

/** Sets of words of each of which a line must have at least one for a rule to take it. */
function neededWords({ match, conditions }: RuleTakes): readonly (readonly string[])[] {
  return needed(match, conditions);
}

function needed(
  match: 'all' | 'any',
  conditions: readonly (Condition | ConditionGroup)[],
): readonly (readonly string[])[] {
  const each = conditions.map((condition) =>
    condition.kind === 'group'
      ? needed(condition.match, condition.conditions)
      : wordsOf(condition).map((word) => [word]),
  );
  if (match === 'all') return each.flat();
  // Where any one is enough, it is one word of each, and none will do where one of them needs no word.
  const longest = each.map((sets) => [...sets].sort((a, b) => lengthOf(b) - lengthOf(a))[0]);
  return longest.every((set) => set !== undefined) && longest.length > 0 ? [longest.flat()] : [];
}

const lengthOf = (words: readonly string[]) => Math.min(...words.map(({ length }) => length));

const IN_WORDING: ReadonlySet<string> = new Set(['wording', 'description', 'reference', 'payee']);

/** Whole words that a line's wording must have, all of them, for a condition to hold. */
function wordsOf(condition: Condition): readonly string[] {
  if (condition.kind !== 'text' || !IN_WORDING.has(condition.field)) return [];
  const { test, text, isExact } = condition;
  switch (test) {
    case 'has':
    case 'startsWith':
    case 'endsWith':
      return isExact ? [] : split(plainWording(text));
    case 'is':
      return split(plainWording(text));
    case 'looksLike':
      return isExact ? [] : split(wildWords(text)).filter((word) => !/[*?]/.test(word));
    default:
      return [];
  }
}

const split = (words: string) => words.split(' ').filter((word) => word !== '');

/** The sizes that a rule takes, where all of its conditions must hold and one is about the amount. */
function amountBand({ match, conditions }: RuleTakes): { from: number; to: number } | null {
  const amounts = conditions.filter((each) => each.kind === 'amount');
  if (amounts.length === 0 || (match === 'any' && conditions.length > 1)) return null;
  return {
    from: Math.max(...amounts.map(({ from }) => from ?? 0)),
    to: Math.min(...amounts.map(({ to }) => to ?? Number.POSITIVE_INFINITY)),
  };
}
