import { plainWording } from '../../text/plainWording.ts';
import type { Condition, ConditionGroup, RuleTakes } from './rule.ts';

/** Why a word of a rule deserves a second look. */
export interface WordWarning {
  readonly word: string;
  readonly kind: 'short' | 'common';
}

/** A word up to this long is short. */
const SHORT = 3;

/**
 * Words that a rule looks for and that stand in many wordings, or are so short that they may. A rule that
 * looks for a common word together with another that is not is not warned about.
 *
 * @param isCommon whether a word stands with many payees
 */
export function wordWarnings(
  takes: RuleTakes,
  isCommon: (word: string) => boolean,
): readonly WordWarning[] {
  const wanted = flat(takes.conditions).flatMap((each) =>
    each.kind === 'text' && !each.isExact && LOOKED_FOR.has(each.test)
      ? [plainWording(each.text.replace(/[*?]/g, ''))]
      : [],
  );
  const weak = wanted.flatMap((text): WordWarning[] => {
    if (text === '') return [];
    if (text.length <= SHORT) return [{ word: text, kind: 'short' }];
    return text.split(' ').every(isCommon) ? [{ word: text, kind: 'common' }] : [];
  });
  const isAnchored = takes.match === 'all' && weak.length < wanted.length;
  return isAnchored ? [] : weak;
}

const LOOKED_FOR: ReadonlySet<string> = new Set(['has', 'startsWith', 'endsWith', 'looksLike']);

function flat(conditions: readonly (Condition | ConditionGroup)[]): readonly Condition[] {
  return conditions.flatMap((each) => (each.kind === 'group' ? each.conditions : each));
}
