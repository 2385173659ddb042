/** What banks write around a name, and that is none. */
const BEFORE =
  /^((CARD )?(PAYMENT|TRANSFER|PURCHASE|RECEIPT) (TO|FROM|AT)|PAYMENT RECEIVED FROM) (?=\S)/;
const AFTER = / (- )?((PAYMENT )?RECEIVED )?(- )?THANK YOU$| (PAYMENT )?RECEIVED$/;

/**
 * A name to be read, made of a stem: the words with capitals, short ones without a vowel as they are. What stands for a
 * number, and what banks write around names, is left out where a name is left.
 *
 * @example cleanName('ROOKHOPE TIMBER YARD') // 'Rookhope Timber Yard'
 * @example cleanName('TIDEMARK FRT') // 'Tidemark FRT'
 * @example cleanName('PAYMENT TO ORRIN BELL #') // 'Orrin Bell'
 */
export function cleanName(stem: string): string {
  const words = stem.split(' ').filter((word) => !/^#+$/.test(word));
  const told = words.join(' ');
  return (told.replace(BEFORE, '').replace(AFTER, '') || told)
    .split(' ')
    .map((word) => {
      if (word.length <= 4 && !/[AEIOUY]/.test(word.normalize('NFD'))) return word;
      return word.charAt(0) + word.slice(1).toLowerCase();
    })
    .join(' ');
}
