import { formatLongDate } from '../dates/calendarDate.ts';
import type { AccountId } from '../ids.ts';
import { demandedWords } from '../ledger/demands.ts';
import { excludeReasons } from '../ledger/excludeReasons.ts';
import { candidateNames } from '../pair/candidateNames.ts';
import type { PairDifference } from '../pair/pairing.ts';
import { amountReasonWords, fitWords, setWords } from '../pair/pairWords.ts';
import { lowerFirst } from '../text/lowerFirst.ts';
import { counted, t } from '../words/t.ts';
import type { NudgeKind } from './nudge/nudges.ts';
import type { Doubt, decisionSources, Ground } from './proposal.ts';

const NAMES = { payee: t`payee`, tax: t`tax code` } as const;

/** A nudge beside a stack, and as the start of a sentence that ends with an account. */
const NUDGES: Readonly<Record<NudgeKind, { readonly label: string; readonly sentence: string }>> = {
  fixedAsset: {
    label: t`looks like a fixed asset`,
    sentence: t`A purchase this large may be a fixed asset rather than a running cost`,
  },
  refund: {
    label: t`looks like a refund`,
    sentence: t`Money moves the opposite way to usual for this payee. A refund belongs to the account of what was refunded`,
  },
  loan: {
    label: t`looks like a loan`,
    sentence: t`Taking out or repaying a loan is neither income nor a cost; only the interest is`,
  },
  wages: {
    label: t`looks like wages`,
    sentence: t`Wages already entered as owed are paid from that account`,
  },
  taxPayment: {
    label: t`looks like a tax payment`,
    sentence: t`Tax paid or refunded settles what was owed; it isn’t a cost`,
  },
  deposit: {
    label: t`looks like a deposit`,
    sentence: t`A deposit is paid back later, so it isn’t a cost`,
  },
  owner: {
    label: t`looks like owner’s money`,
    sentence: t`The owner’s own money is neither income nor a cost`,
  },
  cash: {
    label: t`looks like cash`,
    sentence: t`Cash withdrawn or paid in only moves between your own accounts`,
  },
};

/** Where a proposal came from, behind what was proposed. @example originWords('habit') // 'from look-alikes' */
export function originWords(source: (typeof decisionSources)[number]): string {
  const words: Readonly<Record<typeof source, string>> = {
    pair: t`from what is in the books`,
    transfer: t`from the other side of the transfer`,
    rule: t`by a rule`,
    habit: t`from look-alikes`,
    file: t`from the imported file`,
    otherBooks: t`from your other books`,
    starter: t`from general knowledge`,
    hand: t`by hand`,
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
  if (ground.kind === 'prepared') return t`The imported file says so.`;
  if (ground.kind === 'separator') return separatorWords(ground);
  if (ground.kind === 'word') return t`The wording says ${ground.word}.`;
  if (ground.kind === 'category') {
    return t`The bank’s merchant category ${ground.code} says ${ground.trade}.`;
  }
  if (ground.kind === 'fits') {
    return ground.because === null ? fitWords(ground.by) : setWords(ground.because);
  }
  if (ground.kind === 'otherHalf') return t`The other side is open on the other account.`;
  if (ground.kind === 'namesAccount') return t`The wording names another of your own accounts.`;
  if (ground.kind === 'paysCard') {
    return t`The amount matches the balance of the card statement to ${formatLongDate(ground.to)}.`;
  }
  if (ground.kind === 'rule') return t`The rule “${ground.name}” matches.`;
  const account = nameAccount(ground.accountId);
  if (ground.kind === 'changed') {
    return t`Its newest ${ground.times} all went to ${account}, and none before.`;
  }
  if (ground.kind === 'otherBooks') return otherBooksWords(ground, account);
  if (ground.kind === 'habitSays') {
    return t`Without the rule: ${account}, where ${ground.times} of ${ground.of} look-alikes went.`;
  }
  if (ground.times < ground.of) {
    return t`${ground.times} of ${ground.of} look-alikes went to ${account}.`;
  }
  if (ground.of === 1) return t`The one look-alike went to ${account}.`;
  return ground.of === 2
    ? t`Both look-alikes went to ${account}.`
    : t`All ${ground.of} look-alikes went to ${account}.`;
}

/** What other books do, in a sentence. @example 'In 6 of your other books: 6010 Freight out.' */
function otherBooksWords(
  { books, of }: Extract<Ground, { kind: 'otherBooks' }>,
  account: string,
): string {
  const where = books === 1 ? t`In one of your other books` : t`In ${books} of your other books`;
  return books < of
    ? t`${where}: ${account}. ${counted(of - books, 'has it otherwise.', 'have it otherwise.')}`
    : `${where}: ${account}.`;
}

/** What tells accounts apart, in a sentence. */
function separatorWords({ by, word }: Extract<Ground, { kind: 'separator' }>): string {
  switch (by) {
    case 'word':
      return t`The account depends on whether it says ${word}.`;
    case 'number':
      return t`The account depends on the number ${word}.`;
    case 'amount':
      return t`The account depends on the amount.`;
    case 'direction':
      return t`The account depends on whether money comes in or goes out.`;
    case 'bankAccount':
      return t`The account depends on the bank account.`;
    case 'day':
      return t`The account depends on the day of the month.`;
    case 'weekday':
      return t`The account depends on the day of the week.`;
    case 'cents':
      return t`The account depends on whether the amount is round.`;
  }
}

/** A doubt in a few words, as beside a stack. @example 'two usual accounts' */
export function doubtLabel(doubt: Doubt): string {
  switch (doubt.kind) {
    case 'seenSeldom':
      return doubt.times === 1 ? t`seen only once` : t`seen only twice`;
    case 'severalAccounts':
      return doubt.accounts.length === 2
        ? t`two usual accounts`
        : t`${doubt.accounts.length} usual accounts`;
    case 'severalTaxCodes':
      return t`several tax codes used`;
    case 'unusualAmount':
      return t`unusual amount`;
    case 'lastElsewhere':
      return t`the latest line went elsewhere`;
    case 'newWording':
      return t`new wording for a known payee`;
    case 'newNumber':
      return t`a number not seen before`;
    case 'unsure':
      return t`not sure enough`;
    case 'unknownName':
      return t`${NAMES[doubt.what]} not in the books`;
    case 'ruleAgainstHand':
      return t`its rule contradicts past coding`;
    case 'ruleOverruled':
      return t`its rule is usually changed by hand`;
    case 'ruleStopped':
      return t`its rule doesn’t fit`;
    case 'toAsk':
      return t`a rule asks ${doubt.askedOf}`;
    case 'toExclude':
      return t`a rule would exclude it`;
    case 'onlyUsual':
      return t`general knowledge only`;
    case 'onlyOtherBooks':
      return t`your other books only`;
    case 'accountOff':
      return t`account switched off`;
    case 'incomplete':
      return t`${demandedWords(doubt.missing)} missing`;
    case 'nearlyInBooks':
      return t`nearly ${lowerFirst(candidateNames(doubt.targets))}`;
    case 'anotherFits':
      return doubt.count === 1 ? t`another entry fits` : t`${doubt.count} others fit`;
    case 'equalLines':
      return doubt.count === 1 ? t`another line fits too` : t`${doubt.count} other lines fit too`;
    case 'pairDiffers':
      return t`${differing(doubt.differences)} differs`;
    case 'otherSideMissing':
      return t`other side not imported yet`;
    case 'unsurePair':
      return t`only the amount fits`;
    case 'codedOtherwise':
      return doubt.by === 'rule'
        ? t`it fits, but a rule says otherwise`
        : t`it fits, but a habit says otherwise`;
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
      return t`Too few look-alikes`;
    case 'severalAccounts':
      return t`Several usual accounts`;
    case 'severalTaxCodes':
      return t`Several tax codes used`;
    case 'unusualAmount':
      return t`Unusual amounts`;
    case 'lastElsewhere':
      return t`The latest line went elsewhere`;
    case 'newWording':
      return t`New wordings for known payees`;
    case 'newNumber':
      return t`Numbers not seen before`;
    case 'unsure':
      return t`Not sure enough`;
    case 'unknownName':
      return t`Names that are not in the books`;
    case 'ruleAgainstHand':
      return t`Rules that contradict past coding`;
    case 'ruleOverruled':
      return t`Rules usually changed by hand`;
    case 'ruleStopped':
      return t`Rules that don’t fit the line`;
    case 'toAsk':
      return t`Rules that ask`;
    case 'toExclude':
      return t`Rules that exclude lines`;
    case 'onlyUsual':
      return t`Suggested by general knowledge only`;
    case 'onlyOtherBooks':
      return t`Suggested by your other books only`;
    case 'accountOff':
      return t`Account switched off`;
    case 'incomplete':
      return t`A required field is missing`;
    case 'nearlyInBooks':
      return t`Nearly matches an entry in the books`;
    case 'anotherFits':
      return t`Several lines of the same amount fit`;
    case 'equalLines':
      return t`More equal lines than open items`;
    case 'pairDiffers':
      return t`In the books, but something differs`;
    case 'otherSideMissing':
      return t`Transfers whose other side isn’t imported yet`;
    case 'unsurePair':
      return t`Only the amount fits`;
    case 'codedOtherwise':
      return t`In the books, but a rule or habit says otherwise`;
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
        ? t`One look-alike is too few to rely on.`
        : t`Two look-alikes are too few to rely on.`;
    case 'severalAccounts':
      return t`Nothing reliable separates the ${doubt.accounts.length} accounts that look-alikes went to: ${doubt.accounts
        .map(({ accountId, times }) => t`${times} to ${nameAccount(accountId)}`)
        .join(', ')}.`;
    case 'severalTaxCodes':
      return t`Look-alikes on this account had different tax codes.`;
    case 'unusualAmount':
      return t`The amount is unusual for look-alikes.`;
    case 'lastElsewhere':
      return t`The latest look-alike went to ${nameAccount(doubt.accountId)}: the account may have changed for good.`;
    case 'newWording':
      return t`The wording resembles this payee’s, but is new.`;
    case 'newNumber':
      return t`The account depends on a number, and ${doubt.number} has not been seen before.`;
    case 'unsure':
      return t`The evidence isn’t strong enough.`;
    case 'unknownName':
      return t`The ${NAMES[doubt.what]} named there, “${doubt.name}”, is not in the books.`;
    case 'ruleAgainstHand':
      return t`${doubt.times} lines like this were coded differently by hand before the rule. ${counted(doubt.needed, 'more has', 'more have')} to be kept before the rule is trusted.`;
    case 'ruleOverruled':
      return t`The rule’s proposal was kept on only ${doubt.kept} of its last ${doubt.of} lines.`;
    case 'ruleStopped':
      return t`The rule doesn’t fit this line: ${doubt.why}`;
    case 'toAsk':
      return t`A rule asks ${doubt.askedOf} about this line.`;
    case 'toExclude':
      return t`A rule would exclude this line: ${excludeReasons[doubt.reason]}.`;
    case 'onlyUsual':
      return t`Suggested by general knowledge only: nothing in these books supports it yet.`;
    case 'onlyOtherBooks':
      return t`Suggested by your other books only: nothing in these books supports it yet.`;
    case 'accountOff':
      return t`${nameAccount(doubt.accountId)} is switched off.`;
    case 'incomplete':
      return t`A required field is missing: ${demandedWords(doubt.missing)}.`;
    case 'nearlyInBooks':
      return t`It nearly matches ${lowerFirst(candidateNames(doubt.targets))}, which is open in the books.${doubt.because === null ? '' : ` ${amountReasonWords[doubt.because]}`} Compare them before you code it as something new.`;
    case 'anotherFits':
      return doubt.count === 1
        ? t`Another entry in the books fits almost as well.`
        : t`${doubt.count} other entries in the books fit almost as well.`;
    case 'equalLines':
      return equalLinesWords(doubt.count, lowerFirst(candidateNames(doubt.targets)));
    case 'pairDiffers':
      return t`The entry in the books has a different ${differing(doubt.differences)}.`;
    case 'otherSideMissing':
      return t`The other account doesn’t have this line yet. Once posted, it is in transit there until the line is imported.`;
    case 'unsurePair':
      return t`Only the amount supports it.`;
    case 'codedOtherwise':
      return doubt.by === 'rule'
        ? t`A rule would code it as something new.`
        : t`Look-alikes were coded as something new.`;
    case 'nudge': {
      const { sentence } = NUDGES[doubt.nudge];
      return doubt.accountId === null
        ? `${sentence}.`
        : `${sentence}: ${nameAccount(doubt.accountId)}.`;
    }
  }
}

/** That other lines of the same amount fit, in sentences. */
function equalLinesWords(count: number, what: string): string {
  return count === 1
    ? t`Another line of the same amount fits ${what} just as well. Only one of them can be right.`
    : t`${count} other lines of the same amount fit ${what} just as well. Only one of them can be right.`;
}
