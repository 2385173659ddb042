import { wholeLineCoding } from '../../ledger/coding.ts';
import type { Prediction } from '../habit/predict.ts';
import type { HabitProposal } from '../habit/proposeFromHabit.ts';
import type { PostProposal } from '../proposal.ts';
import type { OtherBooksSay } from './elsewhere.ts';

/** A habit less sure than this, or that rests on lines less alike, hardly knows the payee. */
const SURE_ENOUGH = 0.5;
const ALIKE_ENOUGH = 0.4;

/** Whether what other books did with a payee is the better guess than these books' own habit. */
export function isWeak(habit: HabitProposal | null, prediction: Prediction | null): boolean {
  if (habit === null || prediction === null) return true;
  return habit.sureness < SURE_ENOUGH || prediction.signs.likeness < ALIKE_ENOUGH;
}

/** What the owner's other books did with this payee, as a proposal that is never sure. */
export function proposeFromElsewhere({ accountId, books, of }: OtherBooksSay): PostProposal {
  return {
    kind: 'post',
    source: 'otherBooks',
    coding: wholeLineCoding(accountId, null, null),
    grounds: [{ kind: 'otherBooks', books, of, accountId }],
    doubts: [{ kind: 'onlyOtherBooks' }],
  };
}
