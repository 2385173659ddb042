import type { AccountId, BankAccountId, PayeeId } from '@zubrell/core/ids';
import type { BooksTx } from '../../db/database.ts';
import type { BooksCommand } from './booksCommand.ts';

/**
 * What follows for lines from what a command changes. Whoever changes something says so here and does not know what
 * comes of it: what is proposed, learned, held, or done by rules.
 */
export interface Follow {
  /** Something about lines with these stems is other than it was: they are proposed for anew before the command ends. */
  readonly linesMoved: (command: BooksTx, stems: readonly string[]) => Promise<void>;
  /** Lines were decided, or are no longer. */
  readonly linesDecided: (command: BooksTx, what: DecidedLines) => Promise<void>;
  /** Decided lines teach something else than before. */
  readonly linesTaught: (command: BooksTx, stems: readonly string[]) => Promise<void>;
  /** Decisions do not hold any more, because somebody took them back or changed them. */
  readonly decisionsEnded: (command: BooksCommand, ids: readonly string[]) => Promise<void>;
  /** Entries came or went. */
  readonly entriesChanged: (command: BooksTx, ids: readonly string[]) => Promise<void>;
  /** Documents came, changed or went. */
  readonly documentsChanged: (command: BooksTx, documents: readonly NamedAmount[]) => Promise<void>;
  /** Accounts, payees and the like came or went. */
  readonly thingsChanged: (command: BooksTx, ids: readonly string[]) => Promise<void>;
  /** A payee became another one, or is itself again. */
  readonly payeeMerged: (command: BooksCommand, payeeId: PayeeId) => Promise<void>;
  /** An account was switched on or off, or what it is used for changed. */
  readonly accountChanged: (
    command: BooksCommand,
    accountId: AccountId,
    hasOtherRole: boolean,
  ) => Promise<void>;
  /** What is closed changed, or an opening balance. @param bankAccountId of which account; null for all */
  readonly closingChanged: (command: BooksTx, bankAccountId: BankAccountId | null) => Promise<void>;
  /** Something changed that all proposals depend on. */
  readonly allChanged: (command: BooksTx) => Promise<void>;
}

/** Lines that were decided, or are no longer. */
export interface DecidedLines {
  readonly stems: readonly string[];
  /** In minor units, whatever their sign. */
  readonly amounts: readonly number[];
  /** The entries' legs and documents that they are or were paired with. */
  readonly targetIds: readonly string[];
}

/** An amount that lines may have, and the payee they may name. */
export interface NamedAmount {
  /** In minor units, whatever its sign. */
  readonly amount: number;
  readonly payeeId: PayeeId | null;
}
