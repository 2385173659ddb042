import type { AccountId } from '../../ids.ts';
import { wholeLineCoding } from '../../ledger/coding.ts';
import type { Doubt, Ground, PostProposal } from '../proposal.ts';
import { isProposed, isSure, SAME_PAYEE } from './lanes.ts';
import type { Prediction } from './predict.ts';
import type { Separator } from './separators.ts';
import { oddsOf, probabilityOf, type Trees } from './sureness.ts';

/** What habit needs to know of the books. */
export interface HabitBooks {
  readonly isAccountOn: (accountId: AccountId) => boolean;
  /** How much the books' own record shifts all odds. */
  readonly shift: number;
  /** What sureness is read from; the shipped trees where left out. */
  readonly trees?: Trees | undefined;
}

/** A proposal by habit, with how sure it is. */
export interface HabitProposal {
  readonly proposal: PostProposal;
  /** Log odds that the account is right, before the books' own record is looked at. */
  readonly odds: number;
  /** The probability that it is right. */
  readonly sureness: number;
}

/** What takes away so much of the uncertainty about the account is said. */
const TELLING = 0.6;
/** An amount so many times another is unusual whatever else is known (natural logarithm). */
const FAR = 2;
const FARTHER_THAN_USUAL = 0.5;
/** A wording less alike than this is new. */
const NEW_WORDING = 0.6;
/** So often seen, look-alikes are not too few. */
const OFTEN = 3;

/**
 * The proposal that past decisions on look-alikes give, with its grounds, and with doubts where it is not
 * sure enough or something about the line is unusual.
 *
 * @returns null where too little speaks for any account
 */
export function proposeFromHabit(
  prediction: Prediction | null,
  { isAccountOn, shift, trees }: HabitBooks,
): HabitProposal | null {
  const [first] = prediction?.accounts ?? [];
  if (!prediction || !first) return null;
  const odds = oddsOf(prediction.signs, trees);
  const sureness = probabilityOf(odds + shift);
  if (!isProposed(prediction, sureness)) return null;
  const { accountId } = first;
  const { taxCodeId, signs, isTaxClear } = prediction;
  const payeeId = signs.likeness < SAME_PAYEE ? null : prediction.payeeId;
  const told = tellingOf(prediction);
  const times = prediction.counts.get(accountId) ?? 0;
  let of = 0;
  for (const count of prediction.counts.values()) of += count;
  const grounds: Ground[] = [{ kind: 'lookAlikes', times, of, accountId }];
  const number = signs.numberShared === 1 ? prediction.sharedNumber : null;
  if (signs.timesFirst < signs.times) {
    if (told) grounds.push({ kind: 'separator', ...side(told) });
    else if (number) grounds.push({ kind: 'separator', by: 'number', word: number });
  }
  const { examples, changedAt } = prediction.heard;
  if (changedAt > 0 && examples[changedAt]?.accountId === accountId) {
    grounds.push({ kind: 'changed', times: examples.length - changedAt, accountId });
  }
  const doubts: Doubt[] = [];
  if (!isSure(prediction, sureness)) doubts.push(mainDoubt(prediction, accountId));
  else if (signs.amountApart > FAR) doubts.push({ kind: 'unusualAmount' });
  if (!isTaxClear) doubts.push({ kind: 'severalTaxCodes' });
  if (!isAccountOn(accountId)) doubts.push({ kind: 'accountOff', accountId });
  const coding = wholeLineCoding(accountId, payeeId, taxCodeId);
  return { proposal: { kind: 'post', source: 'habit', coding, grounds, doubts }, odds, sureness };
}

/** What tells that it is this account: first of all a word or number that the line has. */
function tellingOf({ separators, sides }: Prediction): Separator | undefined {
  const telling = separators.filter(({ gain }) => gain >= TELLING);
  const isSaid = ({ kind }: Separator) => kind === 'word' || kind === 'number';
  return (
    telling.find((each) => isSaid(each) && ((sides >> separators.indexOf(each)) & 1) === 1) ??
    telling.find((each) => !isSaid(each)) ??
    telling[0]
  );
}

/** Why a proposal is not sure, by what weighs most. */
function mainDoubt(
  { signs, separators, counts, newNumber, lastElsewhere }: Prediction,
  accountId: AccountId,
): Doubt {
  if (newNumber !== null) return { kind: 'newNumber', number: newNumber };
  if (lastElsewhere !== null) return { kind: 'lastElsewhere', accountId: lastElsewhere };
  const isSeparated = separators.some(({ gain }) => gain >= TELLING);
  if (counts.size > 1 && signs.second > 0.03 && !isSeparated) {
    const accounts = [...counts]
      .map(([id, times]) => ({ accountId: id, times }))
      .sort((a, b) => b.times - a.times || (a.accountId < b.accountId ? -1 : 1));
    const first = accounts.filter((each) => each.accountId === accountId);
    const others = accounts.filter((each) => each.accountId !== accountId);
    return { kind: 'severalAccounts', accounts: [...first, ...others] };
  }
  if (signs.timesFirst < OFTEN) return { kind: 'seenSeldom', times: Math.max(1, signs.timesFirst) };
  if (signs.likeness < SAME_PAYEE) return { kind: 'unsure' };
  if (signs.likeness < NEW_WORDING) return { kind: 'newWording' };
  if (signs.amountApart > FARTHER_THAN_USUAL) return { kind: 'unusualAmount' };
  return { kind: 'unsure' };
}

/** A separator as a ground: what it looks at, without how much it tells. */
function side(separator: Separator): SeparatorGround {
  switch (separator.kind) {
    case 'word':
      return { by: 'word', word: separator.word };
    case 'number':
      return { by: 'number', word: separator.number };
    case 'amount':
    case 'day':
      return { by: separator.kind, limit: separator.limit };
    default:
      return { by: separator.kind };
  }
}

type SeparatorGround = Omit<Extract<Ground, { kind: 'separator' }>, 'kind'>;
