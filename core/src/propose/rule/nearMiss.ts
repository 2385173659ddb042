import { bankHolds, type Holds, holdsOf, sideHolds } from './conditions.ts';
import type { Condition, RuleTakes } from './rule.ts';
import type { RuleLine } from './ruleLine.ts';

/** The one thing for want of which a rule does not take a line. */
export type Missed = 'direction' | 'bankAccount' | 'amount' | 'date' | 'day' | 'wording';

/**
 * What tells for which want a rule misses a line that it would take otherwise, by one thing only: the
 * direction, the bank account, or one of its conditions. Where the only wording it looks for does not
 * stand there, that is no near miss.
 *
 * @returns null where it takes the line, or more than one thing is missing
 * @example “has tidemark, amount is 96.00” misses TIDEMARK FRT at 101.40 for the amount
 */
export function nearMissOf(takes: RuleTakes): (line: RuleLine) => Missed | null {
  const parts: { readonly missed: Missed; readonly holds: Holds; readonly isAnchor: boolean }[] = [
    { missed: 'direction', holds: sideHolds(takes), isAnchor: false },
    { missed: 'bankAccount', holds: bankHolds(takes), isAnchor: false },
  ];
  if (takes.match === 'any') {
    const each = takes.conditions.map(holdsOf);
    const some: Holds = (line) => each.some((holds) => holds(line));
    parts.push({ missed: 'wording', holds: some, isAnchor: true });
  } else {
    for (const condition of takes.conditions) {
      const missed = kindOf(condition);
      const isAnchor = missed === 'wording' && !isDenial(condition);
      parts.push({ missed, holds: holdsOf(condition), isAnchor });
    }
  }
  return (line) => {
    let found: Missed | null = null;
    let isAnchored = false;
    for (const { missed, holds, isAnchor } of parts) {
      if (holds(line)) isAnchored ||= isAnchor;
      else if (found === null) found = missed;
      else return null;
    }
    return isAnchored ? found : null;
  };
}

function kindOf(condition: RuleTakes['conditions'][number]): Missed {
  switch (condition.kind) {
    case 'amount':
    case 'date':
    case 'day':
      return condition.kind;
    default:
      return 'wording';
  }
}

const isDenial = (condition: RuleTakes['conditions'][number]): boolean =>
  condition.kind === 'text' && DENIALS.has(condition.test);
const DENIALS: ReadonlySet<Extract<Condition, { kind: 'text' }>['test']> = new Set([
  'hasNot',
  'isEmpty',
]);
