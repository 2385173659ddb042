/**
 * A name to be read, made of a stem: the words with capitals, short ones without a vowel as they are.
 *
 * @example cleanName('ROOKHOPE TIMBER YARD') // 'Rookhope Timber Yard'
 * @example cleanName('TIDEMARK FRT') // 'Tidemark FRT'
 */
export function cleanName(stem: string): string {
  return stem
    .split(' ')
    .map((word) => {
      if (word.length <= 4 && !/[AEIOUY]/.test(word.normalize('NFD'))) return word;
      return word.charAt(0) + word.slice(1).toLowerCase();
    })
    .join(' ');
}
