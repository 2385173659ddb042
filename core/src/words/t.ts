import { catalogue } from './catalogue.ts';

/** What stands in the catalogue for a key: for keys of tables, others are marked where they are used. */
export const textOf = (key: string): string => catalogue.texts[key] ?? key;

const keys = new WeakMap<readonly string[], string>();

/** The key of a text. @example keyOf(['Undo step ', '']) // 'Undo step {0}' */
export function keyOf(texts: readonly string[]): string {
  const known = keys.get(texts);
  if (known !== undefined) return known;
  const key = texts.reduce((sum, text, at) => (at === 0 ? text : `${sum}{${at - 1}}${text}`), '');
  keys.set(texts, key);
  return key;
}

/** A text of the catalogue in pieces: a word is as it stands, a number is the place of a value. */
export function pieces(key: string): (string | number)[] {
  return textOf(key)
    .split(/\{(\d+)\}/)
    .map((piece, at) => (at % 2 === 0 ? piece : Number(piece)));
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
  return pieces(keyOf(texts))
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
