import type { Condition, ConditionGroup, RuleTakes } from './rule.ts';
import { paddedWords, type RuleLine, rawText } from './ruleLine.ts';

/** Whether something holds for a line. */
export type Holds = (line: RuleLine) => boolean;

/**
 * What tests a condition, worked out once for many lines.
 *
 * @example “has the word tidemark” holds for CRD PUR TIDEMARK FRT and not for TIDEMARKS
 */
export function holdsOf(condition: Condition | ConditionGroup): Holds {
  switch (condition.kind) {
    case 'group':
      return allOrAny(condition.match, condition.conditions.map(holdsOf));
    case 'text':
      return textHolds(condition);
    case 'amount': {
      const from = condition.from ?? 0;
      const to = condition.to ?? Number.POSITIVE_INFINITY;
      return ({ facts }) => {
        const size = Math.abs(facts.amount);
        return size >= from && size <= to;
      };
    }
    case 'date': {
      const { from, to } = condition;
      return ({ facts }) =>
        (from === null || facts.date >= from) && (to === null || facts.date <= to);
    }
    case 'day': {
      const { from, to } = condition;
      return ({ facts }) => {
        const day = Number(facts.date.slice(8));
        return from <= to ? day >= from && day <= to : day >= from || day <= to;
      };
    }
  }
}

/** Whether a line is of the direction and on a bank account that a rule takes. */
export function sideHolds({ direction }: Pick<RuleTakes, 'direction'>): Holds {
  if (direction === 'either') return () => true;
  const isOut = direction === 'out';
  return ({ facts }) => facts.amount < 0 === isOut;
}

/** Whether a line is on one of the bank accounts that a rule takes. */
export function bankHolds({ bankAccountIds }: Pick<RuleTakes, 'bankAccountIds'>): Holds {
  if (bankAccountIds === null) return () => true;
  const wanted = new Set(bankAccountIds);
  return ({ facts }) => wanted.has(facts.bankAccountId);
}

/** What tests all that a rule asks of a line. */
export function takesOf(takes: RuleTakes): Holds {
  const side = sideHolds(takes);
  const bank = bankHolds(takes);
  const rest = allOrAny(takes.match, takes.conditions.map(holdsOf));
  return (line) => side(line) && bank(line) && rest(line);
}

function allOrAny(match: 'all' | 'any', each: readonly Holds[]): Holds {
  const [only] = each;
  if (only && each.length === 1) return only;
  return match === 'all'
    ? (line) => each.every((holds) => holds(line))
    : (line) => each.some((holds) => holds(line));
}

function textHolds({ field, test, text, isExact }: Extract<Condition, { kind: 'text' }>): Holds {
  if (test === 'isEmpty') return ({ plain }) => plain[field] === ' ';
  if (isExact) {
    const compare = exactly(test, text);
    return ({ facts }) => compare(rawText(facts, field));
  }
  const words = paddedWords(text);
  switch (test) {
    case 'has':
      return ({ plain }) => plain[field].includes(words);
    case 'hasNot':
      return ({ plain }) => !plain[field].includes(words);
    case 'is':
      return ({ plain }) => plain[field] === words;
    case 'startsWith':
      return ({ plain }) => plain[field].startsWith(words);
    case 'endsWith':
      return ({ plain }) => plain[field].endsWith(words);
    case 'looksLike': {
      const pattern = `*${wildWords(text)}*`;
      return ({ plain }) => looksLike(plain[field], pattern);
    }
  }
}

function exactly(
  test: Exclude<Extract<Condition, { kind: 'text' }>['test'], 'isEmpty'>,
  text: string,
): (raw: string) => boolean {
  switch (test) {
    case 'has':
      return (raw) => raw.includes(text);
    case 'hasNot':
      return (raw) => !raw.includes(text);
    case 'is':
      return (raw) => raw === text;
    case 'startsWith':
      return (raw) => raw.startsWith(text);
    case 'endsWith':
      return (raw) => raw.endsWith(text);
    case 'looksLike':
      return (raw) => looksLike(raw, text);
  }
}

/** A pattern as words are compared, with its `*` and `?` kept. @example wildWords('stag* fuel') // ' STAG* FUEL ' */
export function wildWords(pattern: string): string {
  const pieces = pattern.split(/([*?])/);
  const plain = pieces.map((piece) => {
    if (piece === '*' || piece === '?') return piece;
    // A break between words survives where the piece is joined to a wildcard.
    const padded = paddedWords(piece);
    const start = /^[^\p{L}\p{N}]/u.test(piece) ? padded : padded.trimStart();
    return /[^\p{L}\p{N}]$/u.test(piece) ? start : start.trimEnd();
  });
  return ` ${plain.join('').trim()} `;
}

/**
 * Whether a text is like a pattern, in which `*` stands for any characters and `?` for one. Takes time in
 * proportion to both lengths at most.
 */
export function looksLike(text: string, pattern: string): boolean {
  let at = 0;
  let place = 0;
  let star = -1;
  let resume = 0;
  while (at < text.length) {
    const wanted = pattern[place];
    if (wanted === '*') {
      star = place;
      resume = at;
      place += 1;
    } else if (wanted !== undefined && (wanted === '?' || wanted === text[at])) {
      at += 1;
      place += 1;
    } else if (star >= 0) {
      resume += 1;
      at = resume;
      place = star + 1;
    } else return false;
  }
  while (pattern[place] === '*') place += 1;
  return place === pattern.length;
}
