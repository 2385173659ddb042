import type { Tx } from '../db/database.ts';
import type { Actor, Services } from '../services.ts';
import {
  accountThing,
  bankAccountThing,
  booksThing,
  costObjectThing,
  payeeThing,
} from './books/bookThings.ts';
import { documentThing, offsetThing } from './documents/documentThings.ts';
import { habitMarkThing } from './habits/markHabit.ts';
import { batchThing } from './intake/batchThing.ts';
import { entryThing } from './ledger/entryThing.ts';
import { aliasThing } from './lines/aliases.ts';
import { dismissalThing } from './lines/dismissNudge.ts';
import { lineHereThing, twiceThing } from './lines/lineHereThing.ts';
import { decisionThing, lineThing } from './lines/lineThing.ts';
import { questionThing } from './questions/questionThing.ts';
import { ruleThing } from './rules/ruleThing.ts';
import { type BooksCommand, openCommand } from './steps/booksCommand.ts';
import type { Things } from './steps/things.ts';

/** How each kind of thing that steps touch is taken back; the compiler asks for every kind. */
const things: Things = {
  books: booksThing,
  account: accountThing,
  payee: payeeThing,
  costObject: costObjectThing,
  bankAccount: bankAccountThing,
  batch: batchThing,
  lineHere: lineHereThing,
  entry: entryThing,
  document: documentThing,
  offset: offsetThing,
  line: lineThing,
  twice: twiceThing,
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
  booksId: string,
  actor: Actor,
): Promise<BooksCommand> {
  return openCommand({ tx, clock, booksId, actor, things });
}
