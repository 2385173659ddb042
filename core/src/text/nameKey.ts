import { foldCase } from './foldCase.ts';

/** Short enough to be looked up in the database, whatever a character folds to. */
const LONGEST = 600;

/**
 * A name or number as it is compared with others: two things that differ only in case or spacing have one name.
 *
 * @example nameKey(' Tidemark  FREIGHT ') // 'tidemark freight'
 */
export function nameKey(name: string): string {
  return foldCase(name).replace(/\s+/gu, ' ').trim().slice(0, LONGEST);
}
