/**
 * The texts of one language by key. A key is the English text with a number in braces for each value, so that English
 * needs no catalogue: a build for another language takes another file in the place of this one (docs/code.md).
 */
export interface Catalogue {
  /** As in `lang`, which also says how it counts. @example 'en' */
  readonly language: string;
  /** @example { 'Undo step {0}': 'Schritt {0} zurücknehmen' } */
  readonly texts: Readonly<Record<string, string>>;
  /** Nouns by how many there are, by the English word for several. @example { lines: { one: 'Zeile', other: 'Zeilen' } } */
  readonly counted: Readonly<Record<string, Partial<Record<Intl.LDMLPluralRule, string>>>>;
}

export const catalogue: Catalogue = { language: 'en', texts: {}, counted: {} };
