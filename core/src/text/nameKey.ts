import { foldCase } from './foldCase.ts';

/**
 * A name or number as it is compared with others: two things that differ only in case or spacing have one name.
 *
 * @example nameKey(' Tidemark  FREIGHT ') // 'tidemark freight'
 */
export function nameKey(name: string): string {
  return foldCase(name).replace(/\s+/gu, ' ').trim();
}
