import { groupBy, putInto } from '../groupBy.ts';
import { plainWording } from '../text/plainWording.ts';

/** A payee by name. */
export interface NamedPayee {
  readonly id: string;
  readonly name: string;
}

/** Words that stand in many names, and say nothing of who it is. */
const FORMS = new Set(
  'AND THE OF FOR LTD LIMITED LLC INC CO COMPANY GMBH AG KG SA SAS SARL SRL BV NV AB AS OY PLC UND ET DE LA LE DER DIE DAS VAN'.split(
    ' ',
  ),
);
/** A cut word must have so many letters to stand for the whole. */
const CUT = 4;

/**
 * Finds payees in wordings by the words of their names, whole or cut short. Words that several payees have
 * count for less.
 *
 * @returns for a wording how much of each payee's name stands in it, from 0 to 1; those not found are left out
 * @example namesIn([{ id: 'n', name: 'Nettle and Thread' }])('FPI NETTLE THREAD LTD').get('n') // 1
 */
export function namesIn(
  payees: readonly NamedPayee[],
): (wording: string) => ReadonlyMap<string, number> {
  const owners = new Map<string, string[]>();
  const words = new Map<string, readonly string[]>();
  for (const { id, name } of payees) {
    const own = tellingWords(name);
    words.set(id, own);
    for (const word of own) putInto(owners, word, id);
  }
  const weight = (word: string) => Math.min(word.length, 8) / (owners.get(word)?.length ?? 1);
  const whole = new Map(
    [...words].map(([id, own]) => [id, own.reduce((sum, word) => sum + weight(word), 0)]),
  );
  const byBeginning = groupBy(
    [...owners.keys()].filter(({ length }) => length >= CUT),
    (word) => word.slice(0, CUT),
  );
  return (wording) => {
    const found = new Map<string, number>();
    const seen = new Set<string>();
    for (const token of plainWording(wording).split(' ')) {
      for (const word of alike(token)) {
        if (seen.has(word)) continue;
        seen.add(word);
        for (const id of owners.get(word) ?? []) {
          found.set(id, (found.get(id) ?? 0) + weight(word) / (whole.get(id) ?? 1));
        }
      }
    }
    return found;
  };

  /** The words of names that a word of a wording is, or is cut from, or has something stuck to. */
  function alike(token: string): readonly string[] {
    if (owners.has(token)) return [token];
    if (token.length < CUT) return [];
    const near = byBeginning.get(token.slice(0, CUT)) ?? [];
    return near.filter((word) => word.startsWith(token) || token.startsWith(word));
  }
}

function tellingWords(name: string): readonly string[] {
  const all = plainWording(name).split(' ').filter(Boolean);
  const telling = all.filter((word) => !FORMS.has(word) && word.length > 1);
  return [...new Set(telling.length > 0 ? telling : all)];
}
