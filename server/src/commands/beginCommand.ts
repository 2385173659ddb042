import type { BooksId } from '@zubrell/core/ids';
import type { Tx } from '../db/database.ts';
import {
  accountThing,
  bankAccountThing,
  booksThing,
  costObjectThing,
  payeeThing,
} from '../modules/books/bookThings.ts';
import { closingThing, lineReviewThing } from '../modules/closing/closingThings.ts';
import { exchangeRateThing } from '../modules/currencies/rateThing.ts';
import { documentThing, offsetThing } from '../modules/documents/documentThings.ts';
import { habitMarkThing } from '../modules/habits/markHabit.ts';
import { batchThing } from '../modules/intake/batchThing.ts';
import { journalPlanThing } from '../modules/journals/journalPlanThing.ts';
import { entryThing } from '../modules/ledger/entryThing.ts';
import { aliasThing } from '../modules/lines/aliases.ts';
import { lineHereThing, twiceThing } from '../modules/lines/lineHereThing.ts';
import { decisionThing, lineThing } from '../modules/lines/lineThing.ts';
import { dismissalThing } from '../modules/proposals/dismissNudge.ts';
import { follow } from '../modules/proposals/follow.ts';
import { questionThing } from '../modules/questions/questionThing.ts';
import { ruleThing } from '../modules/rules/ruleThing.ts';
import { statementDayThing, statementThing } from '../modules/statements/statementThings.ts';
import { type BooksCommand, openCommand } from '../modules/steps/booksCommand.ts';
import type { Things } from '../modules/steps/things.ts';
import { taxCodeThing } from '../modules/tax/taxCodeThing.ts';
import { taxReturnThing } from '../modules/tax/taxReturnThing.ts';
import type { Actor, Services } from '../services.ts';

/** How each kind of thing that steps touch is taken back; the compiler asks for every kind. */
const things: Things = {
  books: booksThing,
  account: accountThing,
  payee: payeeThing,
  costObject: costObjectThing,
  bankAccount: bankAccountThing,
  taxCode: taxCodeThing,
  exchangeRate: exchangeRateThing,
  journalPlan: journalPlanThing,
  batch: batchThing,
  lineHere: lineHereThing,
  entry: entryThing,
  document: documentThing,
  offset: offsetThing,
  line: lineThing,
  twice: twiceThing,
  taxReturn: taxReturnThing,
  statement: statementThing,
  statementDay: statementDayThing,
  closing: closingThing,
  lineReview: lineReviewThing,
  question: questionThing,
  alias: aliasThing,
  dismissal: dismissalThing,
  rule: ruleThing,
  habitMark: habitMarkThing,
  decision: decisionThing,
};

/**
 * Begins a command on books in a transaction of theirs: it waits for the command before.
 *
 * @throws {ZubrellError} BOOKS_UNKNOWN
 */
export function beginCommand(
  tx: Tx,
  { clock }: Pick<Services, 'clock'>,
  booksId: BooksId,
  actor: Actor,
): Promise<BooksCommand> {
  return openCommand({ tx, clock, booksId, actor, things, follow });
}
