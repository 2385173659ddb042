import { foldCase } from '@zubrell/core/text/foldCase';

/**
 * How well a name fits what was typed, from 0 (not at all) to 1: every typed word has to be in it, and those count most
 * that begin the name, then those that begin a word of it.
 *
 * @example jumpRank('Tidemark Freight', 'tide') > jumpRank('High tide', 'tide') // true
 * @example jumpRank('Rent received', 'tide') // 0
 */
export function jumpRank(name: string, typed: string): number {
  const [text, words] = [foldCase(name), foldCase(typed).split(' ').filter(Boolean)];
  const places = words.map((word) => placeOf(text, word));
  if (places.length === 0 || places.includes(0)) return places.length === 0 ? 1 : 0;
  const mean = places.reduce((sum, place) => sum + place, 0) / places.length;
  // Of names that fit alike, the shorter one is more of it.
  return mean - Math.min(0.09, text.length / 1_000);
}

function placeOf(text: string, word: string): number {
  if (text.startsWith(word)) return 1;
  const at = text.indexOf(word);
  if (at < 0) return 0;
  return new RegExp(`(^|[^\\p{L}\\p{N}])${word.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&')}`, 'u').test(
    text,
  )
    ? 0.8
    : 0.5;
}
