import { plainWording } from './plainWording.ts';

/**
 * How alike two wordings are, from 0 to 1: the share of letter triples they have in common, counted
 * over the shorter, so that a cut wording is like its whole.
 *
 * @example wordingLikeness('TIDEMARK FREIGHT LT', 'TIDEMARK FREI') // close to 1
 */
export function wordingLikeness(a: string, b: string): number {
  const [left, right] = [squeezed(a), squeezed(b)];
  if (left === right) return 1;
  const [shorter, longer] = left.length <= right.length ? [left, right] : [right, left];
  if (shorter === '') return 0;
  if (longer.startsWith(shorter)) return 1;
  const wanted = triples(shorter);
  const there = triples(longer);
  let common = 0;
  for (const triple of wanted) if (there.has(triple)) common += 1;
  return common / wanted.size;
}

/** Without spaces and digits: banks add, lose and change these. */
function squeezed(wording: string): string {
  return plainWording(wording).replace(/[\s\p{N}]+/gu, '');
}

function triples(text: string): Set<string> {
  const padded = `^${text}$`;
  const found = new Set<string>();
  for (let at = 0; at + 3 <= padded.length; at += 1) found.add(padded.slice(at, at + 3));
  return found;
}
