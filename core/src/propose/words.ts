import { formatLongDate } from '../dates/calendarDate.ts';
import type { AccountId } from '../ids.ts';
import { demandedWords } from '../ledger/demands.ts';
import { excludeReasons } from '../ledger/excludeReasons.ts';
import type { PairDifference } from '../pair/pairing.ts';
import { amountReasonWords, candidateNames, fitWords, setWords } from '../pair/pairWords.ts';
import { lowerFirst } from '../text/lowerFirst.ts';
import { counted } from '../words/t.ts';
import type { NudgeKind } from './nudge/nudges.ts';
import type { Doubt, decisionSources, Ground } from './proposal.ts';

const NAMES = { payee: 'payee', tax: 'tax code' } as const;

/** A nudge beside a stack, and as the start of a sentence that ends with an account. */
const NUDGES: Readonly<Record<NudgeKind, { readonly label: string; readonly sentence: string }>> = {
  fixedAsset: {
    label: 'looks like a fixed asset',
    sentence: 'A purchase this large may be a fixed asset rather than a running cost',
  },
  refund: {
    label: 'looks like a refund',
    sentence:
      'Money moves the opposite way to usual for this payee. A refund belongs to the account of what was refunded',
  },
  loan: {
    label: 'looks like a loan',
    sentence: 'Taking out or repaying a loan is neither income nor a cost; only the interest is',
  },
  wages: {
    label: 'looks like wages',
    sentence: 'Wages already entered as owed are paid from that account',
  },
  taxPayment: {
    label: 'looks like a tax payment',
    sentence: 'Tax paid or refunded settles what was owed; it isn’t a cost',
  },
  deposit: {
    label: 'looks like a deposit',
    sentence: 'A deposit is paid back later, so it isn’t a cost',
  },
  owner: {
    label: 'looks like owner’s money',
    sentence: 'The owner’s own money is neither income nor a cost',
  },
  cash: {
    label: 'looks like cash',
    sentence: 'Cash withdrawn or paid in only moves between your own accounts',
  },
};

/** Where a proposal came from, behind what was proposed. @example originWords('habit') // 'from look-alikes' */
export function originWords(source: (typeof decisionSources)[number]): string {
  const words: Readonly<Record<typeof source, string>> = {
    pair: 'from what is in the books',
    transfer: 'from the other side of the transfer',
    rule: 'by a rule',
    habit: 'from look-alikes',
    file: 'from the imported file',
    otherBooks: 'from your other books',
    starter: 'from general knowledge',
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
  if (ground.kind === 'prepared') return 'The imported file says so.';
  if (ground.kind === 'separator') return separatorWords(ground);
  if (ground.kind === 'word') return `The wording says ${ground.word}.`;
  if (ground.kind === 'category') {
    return `The bank’s merchant category ${ground.code} says ${ground.trade}.`;
  }
  if (ground.kind === 'fits') {
    return ground.because === null ? fitWords(ground.by) : setWords(ground.because);
  }
  if (ground.kind === 'otherHalf') return 'The other side is open on the other account.';
  if (ground.kind === 'namesAccount') return 'The wording names another of your own accounts.';
  if (ground.kind === 'paysCard') {
    return `The amount matches the balance of the card statement to ${formatLongDate(ground.to)}.`;
  }
  if (ground.kind === 'rule') return `The rule “${ground.name}” matches.`;
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
      return `The account depends on whether it says ${word}.`;
    case 'number':
      return `The account depends on the number ${word}.`;
    case 'amount':
      return 'The account depends on the amount.';
    case 'direction':
      return 'The account depends on whether money comes in or goes out.';
    case 'bankAccount':
      return 'The account depends on the bank account.';
    case 'day':
      return 'The account depends on the day of the month.';
    case 'weekday':
      return 'The account depends on the day of the week.';
    case 'cents':
      return 'The account depends on whether the amount is round.';
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
      return 'the latest line went elsewhere';
    case 'newWording':
      return 'new wording for a known payee';
    case 'newNumber':
      return 'a number not seen before';
    case 'unsure':
      return 'not sure enough';
    case 'unknownName':
      return `${NAMES[doubt.what]} not in the books`;
    case 'ruleAgainstHand':
      return 'its rule contradicts past coding';
    case 'ruleOverruled':
      return 'its rule is usually changed by hand';
    case 'ruleStopped':
      return 'its rule doesn’t fit';
    case 'toAsk':
      return `a rule asks ${doubt.askedOf}`;
    case 'toExclude':
      return 'a rule would exclude it';
    case 'onlyUsual':
      return 'general knowledge only';
    case 'onlyOtherBooks':
      return 'your other books only';
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
      return 'other side not imported yet';
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
      return 'Too few look-alikes';
    case 'severalAccounts':
      return 'Several usual accounts';
    case 'severalTaxCodes':
      return 'Several tax codes used';
    case 'unusualAmount':
      return 'Unusual amounts';
    case 'lastElsewhere':
      return 'The latest line went elsewhere';
    case 'newWording':
      return 'New wordings for known payees';
    case 'newNumber':
      return 'Numbers not seen before';
    case 'unsure':
      return 'Not sure enough';
    case 'unknownName':
      return 'Names that are not in the books';
    case 'ruleAgainstHand':
      return 'Rules that contradict past coding';
    case 'ruleOverruled':
      return 'Rules usually changed by hand';
    case 'ruleStopped':
      return 'Rules that don’t fit the line';
    case 'toAsk':
      return 'Rules that ask';
    case 'toExclude':
      return 'Rules that exclude lines';
    case 'onlyUsual':
      return 'Suggested by general knowledge only';
    case 'onlyOtherBooks':
      return 'Suggested by your other books only';
    case 'accountOff':
      return 'Account switched off';
    case 'incomplete':
      return 'A required field is missing';
    case 'nearlyInBooks':
      return 'Nearly matches an entry in the books';
    case 'anotherFits':
      return 'Several lines of the same amount fit';
    case 'equalLines':
      return 'More equal lines than open items';
    case 'pairDiffers':
      return 'In the books, but something differs';
    case 'otherSideMissing':
      return 'Transfers whose other side isn’t imported yet';
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
      return `Nothing reliable separates the ${doubt.accounts.length} accounts that look-alikes went to: ${doubt.accounts
        .map(({ accountId, times }) => `${times} to ${nameAccount(accountId)}`)
        .join(', ')}.`;
    case 'severalTaxCodes':
      return 'Look-alikes on this account had different tax codes.';
    case 'unusualAmount':
      return 'The amount is unusual for look-alikes.';
    case 'lastElsewhere':
      return `The latest look-alike went to ${nameAccount(doubt.accountId)}: the account may have changed for good.`;
    case 'newWording':
      return 'The wording resembles this payee’s, but is new.';
    case 'newNumber':
      return `The account depends on a number, and ${doubt.number} has not been seen before.`;
    case 'unsure':
      return 'The evidence isn’t strong enough.';
    case 'unknownName':
      return `The ${NAMES[doubt.what]} named there, “${doubt.name}”, is not in the books.`;
    case 'ruleAgainstHand':
      return `${doubt.times} lines like this were coded differently by hand before the rule. ${counted(doubt.needed, 'more has', 'more have')} to be kept before the rule is trusted.`;
    case 'ruleOverruled':
      return `The rule’s proposal was kept on only ${doubt.kept} of its last ${doubt.of} lines.`;
    case 'ruleStopped':
      return `The rule doesn’t fit this line: ${doubt.why}`;
    case 'toAsk':
      return `A rule asks ${doubt.askedOf} about this line.`;
    case 'toExclude':
      return `A rule would exclude this line: ${excludeReasons[doubt.reason]}.`;
    case 'onlyUsual':
      return 'Suggested by general knowledge only: nothing in these books supports it yet.';
    case 'onlyOtherBooks':
      return 'Suggested by your other books only: nothing in these books supports it yet.';
    case 'accountOff':
      return `${nameAccount(doubt.accountId)} is switched off.`;
    case 'incomplete':
      return `A required field is missing: ${demandedWords(doubt.missing)}.`;
    case 'nearlyInBooks':
      return `It nearly matches ${lowerFirst(candidateNames(doubt.targets))}, which is open in the books.${
        doubt.because === null ? '' : ` ${amountReasonWords[doubt.because]}`
      } Compare them before you code it as something new.`;
    case 'anotherFits':
      return doubt.count === 1
        ? 'Another entry in the books fits almost as well.'
        : `${doubt.count} other entries in the books fit almost as well.`;
    case 'equalLines':
      return `${doubt.count === 1 ? 'Another line' : `${doubt.count} other lines`} of the same amount ${doubt.count === 1 ? 'fits' : 'fit'} ${lowerFirst(candidateNames(doubt.targets))} just as well. Only one of them can be right.`;
    case 'pairDiffers':
      return `The entry in the books has a different ${differing(doubt.differences)}.`;
    case 'otherSideMissing':
      return 'The other account doesn’t have this line yet. Once posted, it is in transit there until the line is imported.';
    case 'unsurePair':
      return 'Only the amount supports it.';
    case 'codedOtherwise':
      return doubt.by === 'rule'
        ? 'A rule would code it as something new.'
        : 'Look-alikes were coded as something new.';
    case 'nudge': {
      const { sentence } = NUDGES[doubt.nudge];
      return doubt.accountId === null
        ? `${sentence}.`
        : `${sentence}: ${nameAccount(doubt.accountId)}.`;
    }
  }
}
