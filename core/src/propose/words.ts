import { formatLongDate } from '../dates/calendarDate.ts';
import type { AccountId } from '../ids.ts';
import { demandedWords } from '../ledger/demands.ts';
import { excludeReasons } from '../ledger/excludeReasons.ts';
import type { PairDifference } from '../pair/pairing.ts';
import { amountReasonWords, candidateNames, fitWords, setWords } from '../pair/pairWords.ts';
import { lowerFirst } from '../text/lowerFirst.ts';
import type { NudgeKind } from './nudge/nudges.ts';
import type { Doubt, decisionSources, Ground } from './proposal.ts';

const NAMES = { payee: 'payee', tax: 'tax code' } as const;

/** A nudge beside a stack, and as the start of a sentence that ends with an account. */
const NUDGES: Readonly<Record<NudgeKind, { readonly label: string; readonly sentence: string }>> = {
  fixedAsset: {
    label: 'looks like a fixed asset',
    sentence: 'So large a purchase may serve for years and be no running cost',
  },
  refund: {
    label: 'looks like a refund',
    sentence:
      'Money moves the other way than with this payee so far. A refund goes to the account of what is refunded',
  },
  loan: {
    label: 'looks like a loan',
    sentence: 'A loan taken or paid back is no income and no cost; only its interest is',
  },
  wages: {
    label: 'looks like wages',
    sentence: 'Wages that were entered as owed are paid from there',
  },
  taxPayment: {
    label: 'looks like a tax payment',
    sentence: 'Tax paid or paid back settles what was owed and is no cost',
  },
  deposit: {
    label: 'looks like a deposit',
    sentence: 'A deposit comes back one day and is no cost',
  },
  owner: {
    label: 'looks like owner’s money',
    sentence: 'The owner’s own money is no income and no cost',
  },
  cash: {
    label: 'looks like cash',
    sentence: 'Cash drawn or paid in only moves between own accounts',
  },
};

/** Where a proposal came from, behind what was proposed. @example originWords('habit') // 'from look-alikes' */
export function originWords(source: (typeof decisionSources)[number]): string {
  const words: Readonly<Record<typeof source, string>> = {
    pair: 'from what is in the books',
    transfer: 'from the other half of the move',
    rule: 'by a rule',
    habit: 'from look-alikes',
    file: 'by the file it came in',
    otherBooks: 'from your other books',
    starter: 'from what is usual',
    hand: 'by hand',
  };
  return words[source];
}

/** Gives an account's code and name. */
export type NameAccount = (accountId: AccountId) => string;

/**
 * A ground in words.
 *
 * @example groundWords({ kind: 'lookAlikes', times: 7, of: 7, accountId }, name)
 * // 'All 7 look-alikes went to 6010 Freight out.'
 */
export function groundWords(ground: Ground, nameAccount: NameAccount): string {
  if (ground.kind === 'prepared') return 'The file it came in says so.';
  if (ground.kind === 'separator') return separatorWords(ground);
  if (ground.kind === 'word') return `The wording says ${ground.word}.`;
  if (ground.kind === 'category') {
    return `The bank’s merchant category ${ground.code} says ${ground.trade}.`;
  }
  if (ground.kind === 'fits') {
    return ground.because === null ? fitWords(ground.by) : setWords(ground.because);
  }
  if (ground.kind === 'otherHalf') return 'The other half is open on the other account.';
  if (ground.kind === 'namesAccount') return 'The wording names another of the own accounts.';
  if (ground.kind === 'paysCard') {
    return `It comes to the balance of the card’s statement to ${formatLongDate(ground.to)}.`;
  }
  if (ground.kind === 'rule') return `The rule “${ground.name}” takes it.`;
  const account = nameAccount(ground.accountId);
  if (ground.kind === 'changed') {
    return `Its newest ${ground.times} all went to ${account}, and none before.`;
  }
  if (ground.kind === 'otherBooks') return otherBooksWords(ground, account);
  if (ground.kind === 'habitSays') {
    return `Without the rule: ${account}, where ${ground.times} of ${ground.of} look-alikes went.`;
  }
  if (ground.times < ground.of) {
    return `${ground.times} of ${ground.of} look-alikes went to ${account}.`;
  }
  if (ground.of === 1) return `The one look-alike went to ${account}.`;
  return ground.of === 2
    ? `Both look-alikes went to ${account}.`
    : `All ${ground.of} look-alikes went to ${account}.`;
}

/** What other books do, in a sentence. @example 'In 6 of your other books: 6010 Freight out.' */
function otherBooksWords(
  { books, of }: Extract<Ground, { kind: 'otherBooks' }>,
  account: string,
): string {
  const where = books === 1 ? 'In one of your other books' : `In ${books} of your other books`;
  return books < of
    ? `${where}: ${account}. ${of - books} ${of - books === 1 ? 'has' : 'have'} it otherwise.`
    : `${where}: ${account}.`;
}

/** What tells accounts apart, in a sentence. */
function separatorWords({ by, word }: Extract<Ground, { kind: 'separator' }>): string {
  switch (by) {
    case 'word':
      return `What tells its accounts apart is whether it says ${word}.`;
    case 'number':
      return `What tells its accounts apart is the number ${word}.`;
    case 'amount':
      return 'What tells its accounts apart is the amount.';
    case 'direction':
      return 'What tells its accounts apart is whether money comes or goes.';
    case 'bankAccount':
      return 'What tells its accounts apart is the bank account.';
    case 'day':
      return 'What tells its accounts apart is the day of the month.';
    case 'weekday':
      return 'What tells its accounts apart is the day of the week.';
    case 'cents':
      return 'What tells its accounts apart is whether the amount is a round one.';
  }
}

/** A doubt in a few words, as beside a stack. @example 'two usual accounts' */
export function doubtLabel(doubt: Doubt): string {
  switch (doubt.kind) {
    case 'seenSeldom':
      return doubt.times === 1 ? 'seen only once' : 'seen only twice';
    case 'severalAccounts':
      return doubt.accounts.length === 2
        ? 'two usual accounts'
        : `${doubt.accounts.length} usual accounts`;
    case 'severalTaxCodes':
      return 'several tax codes used';
    case 'unusualAmount':
      return 'unusual amount';
    case 'lastElsewhere':
      return 'the newest went elsewhere';
    case 'newWording':
      return 'new wording for a known payee';
    case 'newNumber':
      return 'a number not seen before';
    case 'unsure':
      return 'not sure enough';
    case 'unknownName':
      return `${NAMES[doubt.what]} not in the books`;
    case 'ruleAgainstHand':
      return 'its rule goes against past coding';
    case 'ruleOverruled':
      return 'its rule is mostly overruled';
    case 'ruleStopped':
      return 'its rule does not fit';
    case 'toAsk':
      return `a rule asks ${doubt.askedOf}`;
    case 'toExclude':
      return 'a rule keeps it out';
    case 'onlyUsual':
      return 'only what is usual';
    case 'onlyOtherBooks':
      return 'only your other books';
    case 'accountOff':
      return 'account switched off';
    case 'incomplete':
      return `${demandedWords(doubt.missing)} missing`;
    case 'nearlyInBooks':
      return `nearly ${lowerFirst(candidateNames(doubt.targets))}`;
    case 'anotherFits':
      return doubt.count === 1 ? 'another entry fits' : `${doubt.count} others fit`;
    case 'equalLines':
      return doubt.count === 1 ? 'another line fits too' : `${doubt.count} other lines fit too`;
    case 'pairDiffers':
      return `${differing(doubt.differences)} differs`;
    case 'otherSideMissing':
      return 'other side not in yet';
    case 'unsurePair':
      return 'only the amount fits';
    case 'codedOtherwise':
      return `it fits, but a ${doubt.by} says otherwise`;
    case 'nudge':
      return NUDGES[doubt.nudge].label;
  }
}

const DIFFERING: Readonly<Record<PairDifference['kind'], string>> = {
  date: 'date',
  payee: 'payee',
  number: 'number',
  amount: 'amount',
  direction: 'direction',
};

/** In what it differs. @example 'date and payee' */
function differing(differences: readonly PairDifference[]): string {
  return [...new Set(differences.map(({ kind }) => DIFFERING[kind]))].join(' and ');
}

/** The heading over stacks that are doubted for one kind of reason. */
export function doubtHeading(doubt: Doubt): string {
  switch (doubt.kind) {
    case 'seenSeldom':
      return 'Seen too seldom to rely on';
    case 'severalAccounts':
      return 'Several usual accounts';
    case 'severalTaxCodes':
      return 'Several tax codes used';
    case 'unusualAmount':
      return 'Unusual amounts';
    case 'lastElsewhere':
      return 'The newest went elsewhere';
    case 'newWording':
      return 'New wordings for known payees';
    case 'newNumber':
      return 'Numbers that were not seen before';
    case 'unsure':
      return 'Not sure enough';
    case 'unknownName':
      return 'Names that are not in the books';
    case 'ruleAgainstHand':
      return 'Rules that go against past coding';
    case 'ruleOverruled':
      return 'Rules that are mostly overruled';
    case 'ruleStopped':
      return 'Rules that do not fit the line';
    case 'toAsk':
      return 'Rules that ask';
    case 'toExclude':
      return 'Rules that keep lines out';
    case 'onlyUsual':
      return 'Suggested by general knowledge only';
    case 'onlyOtherBooks':
      return 'Only your other books speak for it';
    case 'accountOff':
      return 'Account switched off';
    case 'incomplete':
      return 'Something that the books demand is missing';
    case 'nearlyInBooks':
      return 'Nearly what is in the books already';
    case 'anotherFits':
      return 'Several of the same amount fit';
    case 'equalLines':
      return 'More equal lines than open items';
    case 'pairDiffers':
      return 'In the books, but something differs';
    case 'otherSideMissing':
      return 'Moves whose other side is not in yet';
    case 'unsurePair':
      return 'Only the amount fits';
    case 'codedOtherwise':
      return 'In the books, but a rule or habit says otherwise';
    case 'nudge': {
      const { label } = NUDGES[doubt.nudge];
      return `${label.charAt(0).toUpperCase()}${label.slice(1)}`;
    }
  }
}

/** A doubt in a sentence, as in the line sheet. */
export function doubtWords(doubt: Doubt, nameAccount: NameAccount): string {
  switch (doubt.kind) {
    case 'seenSeldom':
      return doubt.times === 1
        ? 'One look-alike is too few to rely on.'
        : 'Two look-alikes are too few to rely on.';
    case 'severalAccounts':
      return `Nothing proven tells apart the ${doubt.accounts.length} accounts that look-alikes went to: ${doubt.accounts
        .map(({ accountId, times }) => `${times} to ${nameAccount(accountId)}`)
        .join(', ')}.`;
    case 'severalTaxCodes':
      return 'Look-alikes on this account had different tax codes.';
    case 'unusualAmount':
      return 'The amount is far from those of look-alikes.';
    case 'lastElsewhere':
      return `The newest look-alike went to ${nameAccount(doubt.accountId)}: it may have changed for good.`;
    case 'newWording':
      return 'The wording is like this payee’s, but has not come so before.';
    case 'newNumber':
      return `Numbers tell its accounts apart, and ${doubt.number} has not been seen before.`;
    case 'unsure':
      return 'What speaks for it is not enough to be sure.';
    case 'unknownName':
      return `The ${NAMES[doubt.what]} named there, “${doubt.name}”, is not in the books.`;
    case 'ruleAgainstHand':
      return `${doubt.times} lines like this were coded differently by hand before the rule. ${doubt.needed === 1 ? 'One more has' : `${doubt.needed} more have`} to be kept before it is trusted.`;
    case 'ruleOverruled':
      return `What its rule proposed was kept on only ${doubt.kept} of its last ${doubt.of} lines.`;
    case 'ruleStopped':
      return `The rule does not fit this line: ${doubt.why}`;
    case 'toAsk':
      return `A rule wants ${doubt.askedOf} to be asked about it.`;
    case 'toExclude':
      return `A rule would keep it out: ${excludeReasons[doubt.reason]}.`;
    case 'onlyUsual':
      return 'Nothing in these books speaks for it yet, only what is usual elsewhere.';
    case 'onlyOtherBooks':
      return 'Nothing in these books speaks for it yet, only what was done in your other books.';
    case 'accountOff':
      return `${nameAccount(doubt.accountId)} is switched off.`;
    case 'incomplete':
      return `These books demand ${demandedWords(doubt.missing)} here.`;
    case 'nearlyInBooks':
      return `It is nearly ${lowerFirst(candidateNames(doubt.targets))}, which is open in the books.${
        doubt.because === null ? '' : ` ${amountReasonWords[doubt.because]}`
      } Compare before it is coded as something new.`;
    case 'anotherFits':
      return doubt.count === 1
        ? 'Another one in the books fits nearly as well.'
        : `${doubt.count} others in the books fit nearly as well.`;
    case 'equalLines':
      return `${doubt.count === 1 ? 'Another line' : `${doubt.count} other lines`} of the same amount ${doubt.count === 1 ? 'fits' : 'fit'} ${lowerFirst(candidateNames(doubt.targets))} just as well. Only one of them can be it.`;
    case 'pairDiffers':
      return `What stands in the books has another ${differing(doubt.differences)}.`;
    case 'otherSideMissing':
      return 'The other account doesn’t have this line yet. Once posted, it is in transit there until the line is imported.';
    case 'unsurePair':
      return 'Little speaks for it but the amount.';
    case 'codedOtherwise':
      return doubt.by === 'rule'
        ? 'A rule would have it coded as something new.'
        : 'Look-alikes were coded as something new.';
    case 'nudge': {
      const { sentence } = NUDGES[doubt.nudge];
      return doubt.accountId === null
        ? `${sentence}.`
        : `${sentence}: ${nameAccount(doubt.accountId)}.`;
    }
  }
}
