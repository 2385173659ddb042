/**
 * Texts one behind the other in a single one, by their places: a million short texts take a fraction of the time to read
 * and of the memory so.
 */
export interface PackedTexts {
  readonly all: string;
  /** Where each starts; the last is where all end. */
  readonly starts: Int32Array;
}

/** Packs texts in their order. @example packTexts(['ab', 'c']) // { all: 'abc', starts: [0, 2, 3] } */
export function packTexts(texts: readonly string[]): PackedTexts {
  const starts = new Int32Array(texts.length + 1);
  for (const [at, text] of texts.entries()) starts[at + 1] = (starts[at] ?? 0) + text.length;
  return { all: texts.join(''), starts };
}

/** How many texts there are. */
export function countTexts({ starts }: PackedTexts): number {
  return starts.length - 1;
}

/** The text at a place, from 0 on. */
export function textAt({ all, starts }: PackedTexts, place: number): string {
  return all.slice(starts[place], starts[place + 1]);
}
