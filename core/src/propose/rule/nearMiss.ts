import { bankHolds, type Holds, holdsOf, sideHolds } from './conditions.ts';
import type { Condition, RuleTakes } from './rule.ts';
import type { RuleLine } from './ruleLine.ts';

/** The one thing for want of which a rule does not take a line. */
export const missedKinds = [
  'direction',
  'bankAccount',
  'amount',
  'date',
  'day',
  'wording',
] as const;
export type Missed = (typeof missedKinds)[number];

/** What a rule makes of a line: it takes it, misses it by one thing only, or has nothing to do with it. */
export type Verdict = 'taken' | Missed | null;

/**
 * What tells whether a rule takes a line, or misses it by one thing only: the direction, the bank account, or
 * one of its conditions. Where the only wording it looks for does not stand there, that is no near miss.
 *
 * @example “has tidemark, amount is 96.00” misses TIDEMARK FRT at 101.40 for the amount
 */
export function verdictOf(takes: RuleTakes): (line: RuleLine) => Verdict {
  const sides: readonly Part[] = [
    { missed: 'direction', holds: sideHolds(takes) },
    { missed: 'bankAccount', holds: bankHolds(takes) },
  ];
  if (takes.match === 'any') {
    const each = takes.conditions.map(holdsOf);
    const some: Holds = (line) => each.some((holds) => holds(line));
    return (line) => (some(line) ? firstMissed(sides, line, 'taken') : null);
  }
  const anchors = takes.conditions.filter(isAnchor).map(holdsOf);
  const others = takes.conditions
    .filter((condition) => !isAnchor(condition))
    .map((condition): Part => ({ missed: kindOf(condition), holds: holdsOf(condition) }));
  const rest = [...sides, ...others];
  return (line) => {
    // Most lines have none of the wordings: nothing else has to be looked at then.
    let found = 0;
    for (const holds of anchors) if (holds(line)) found += 1;
    if (anchors.length === 0) return rest.every(({ holds }) => holds(line)) ? 'taken' : null;
    if (found === 0 || found < anchors.length - 1) return null;
    if (found === anchors.length) return firstMissed(rest, line, 'taken');
    return rest.every(({ holds }) => holds(line)) ? 'wording' : null;
  };
}

interface Part {
  readonly missed: Missed;
  readonly holds: Holds;
}

/** The one part that does not hold; null where several do not. */
function firstMissed(parts: readonly Part[], line: RuleLine, otherwise: Verdict): Verdict {
  let missed: Verdict = otherwise;
  for (const part of parts) {
    if (part.holds(line)) continue;
    if (missed !== otherwise) return null;
    missed = part.missed;
  }
  return missed;
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

/** Whether it looks for a wording, and not that one is missing. */
const isAnchor = (condition: RuleTakes['conditions'][number]): boolean =>
  condition.kind === 'group' || (condition.kind === 'text' && !DENIALS.has(condition.test));
const DENIALS: ReadonlySet<Extract<Condition, { kind: 'text' }>['test']> = new Set([
  'hasNot',
  'isEmpty',
]);
