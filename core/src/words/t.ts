import { catalogue } from './catalogue.ts';

/** What stands in the catalogue for a key: for keys of tables, others are marked where they are used. */
export const textOf = (key: string): string => catalogue.texts[key] ?? key;

/** The key of a text. @example keyOf(['Undo step ', '']) // 'Undo step {0}' */
export const keyOf = (texts: readonly string[]): string =>
  texts.reduce((sum, text, at) => (at === 0 ? text : `${sum}{${at - 1}}${text}`), '');

/** A text of the catalogue in pieces: a word is as it stands, a number is the place of a value. */
export type Pieces = readonly (string | number)[];

/** The pieces of what stands in the catalogue for a key. */
export function pieces(key: string): Pieces {
  return textOf(key)
    .split(/\{(\d+)\}/)
    .map((piece, at) => (at % 2 === 0 ? piece : Number(piece)));
}

const known = new WeakMap<readonly string[], Pieces>();

/** The pieces of a text that is marked in the code: lists say the same for each of their rows. */
export function piecesOf(texts: readonly string[]): Pieces {
  const before = known.get(texts);
  if (before) return before;
  const now = pieces(keyOf(texts));
  known.set(texts, now);
  return now;
}

/**
 * A text that people see, in their language.
 *
 * @example t`Undo step ${12}` // 'Undo step 12'
 */
export function t(
  texts: readonly string[],
  ...values: readonly (string | number | null | undefined)[]
): string {
  const [only] = texts;
  if (values.length === 0 && only !== undefined) return textOf(only);
  return piecesOf(texts)
    .map((piece) => (typeof piece === 'number' ? values[piece] : piece))
    .join('');
}

const plurals = new Intl.PluralRules(catalogue.language);

/** What so many of something are called. @example nounOf(2, 'rate', 'rates') // 'rates' */
export function nounOf(count: number, one: string, other: string): string {
  const forms = catalogue.counted[other] ?? { one, other };
  return forms[plurals.select(count)] ?? forms.other ?? other;
}

/**
 * So many of something.
 *
 * @param shown how the number is written, where that is not just its digits
 * @example counted(2, 'rate', 'rates') // '2 rates'
 */
export function counted(count: number, one: string, other: string, shown = `${count}`): string {
  return `${shown} ${nounOf(count, one, other)}`;
}
