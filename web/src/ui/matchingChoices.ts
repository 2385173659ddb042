import { plainWording } from '@zubrell/core/text/plainWording';

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

/**
 * The choices that have every typed word in them, those with the words at the start of theirs first.
 *
 * @example matchingChoices([{ id: '1', label: '6010 Freight out' }], 'frei')[0]?.id // '1'
 */
export function matchingChoices(choices: readonly Choice[], typed: string): readonly Choice[] {
  const words = plainWording(typed).split(' ').filter(Boolean);
  if (words.length === 0) return choices.slice(0, MOST);
  const ranked = choices.flatMap((choice) => {
    const text = plainWording(`${choice.label} ${choice.hint ?? ''} ${choice.words ?? ''}`);
    if (!words.every((word) => text.includes(word))) return [];
    const isAtStart = words.every((word) => ` ${text}`.includes(` ${word}`));
    return [{ choice, rank: isAtStart ? 0 : 1 }];
  });
  ranked.sort((a, b) => a.rank - b.rank);
  return ranked.slice(0, MOST).map(({ choice }) => choice);
}
