import { plainWording } from '@zubrell/core/text/plainWording';
import { matchSorter, type RankedItem, rankings } from 'match-sorter';

/** Something that can be chosen. */
export interface Choice {
  readonly id: string;
  readonly label: string;
  readonly hint?: string;
  /** More words to find it by, that are not shown. */
  readonly words?: string;
}

/** More are never shown at once. */
const MOST = 60;

/** Where the words to find a choice by stand. */
const KEYS = ['label', 'hint', 'words'] as const;

/**
 * The choices that have every typed word in them, those with the words at the start of theirs first, else as they
 * come.
 *
 * @example matchingChoices([{ id: '1', label: '6010 Freight out' }], 'frei')[0]?.id // '1'
 */
export function matchingChoices(choices: readonly Choice[], typed: string): readonly Choice[] {
  const words = plainWording(typed).split(' ').filter(Boolean);
  if (words.length === 0) return choices.slice(0, MOST);
  const found = words.reduce<readonly Choice[]>(
    (left, word) =>
      matchSorter(left, word, {
        keys: KEYS.map((key) => ({
          key,
          threshold: rankings.CONTAINS,
          maxRanking: rankings.WORD_STARTS_WITH,
        })),
        sorter: byRank,
      }),
    choices,
  );
  return found.slice(0, MOST);
}

/** Which key it was found by says nothing. */
function byRank(items: RankedItem<Choice>[]): RankedItem<Choice>[] {
  return items.sort((a, b) => b.rank - a.rank || a.index - b.index);
}
