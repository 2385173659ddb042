import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Clock } from '../../clock.ts';
import { type BooksTx, execute, rowsOf, type Tx, together } from '../../db/database.ts';
import type { Actor } from '../../services.ts';
import type { Follow } from './follow.ts';
import type { Things } from './things.ts';

/** A command under way: one transaction on one set of books, in one person's name, that makes one step. */
export interface BooksCommand extends BooksTx {
  readonly clock: Clock;
  readonly actor: Actor;
  /** The number of the step that it makes. */
  readonly step: number;
  /** How each kind of thing that steps touch is read and put. */
  readonly things: Things;
  /** What follows for lines from what it changes. */
  readonly follow: Follow;
}

/** In whose name something is done in books that need not be a step. */
export type Acting = Pick<BooksCommand, 'tx' | 'booksId' | 'clock' | 'actor'>;

/** What a command is made of. */
export type CommandParts = Omit<BooksCommand, 'step'>;

const LastStepRow = z.object({ lastStep: z.number() });

/**
 * Begins a command: those on one set of books wait for each other here, so that steps commit in the order of
 * their numbers, and what is read after this is what the command before left.
 *
 * @throws {ZubrellError} BOOKS_UNKNOWN
 */
export async function openCommand(parts: CommandParts): Promise<BooksCommand> {
  const { tx, booksId } = parts;
  const [[books]] = await together(
    rowsOf(
      tx,
      LastStepRow,
      sql`select last_step as "lastStep" from books where id = ${booksId} for no key update`,
    ),
    execute(
      tx,
      sql`select set_config('app.committed_step', last_step::text, true) from books where id = ${booksId}`,
    ),
  );
  const { lastStep } = books ?? fail('BOOKS_UNKNOWN');
  return { ...parts, step: lastStep + 1 };
}

/** The same transaction for one more step, after this one was recorded. */
export function nextCommand(command: BooksCommand): BooksCommand {
  return { ...command, step: command.step + 1 };
}

const StepRow = z.object({ step: z.number() });

/**
 * The newest step that is committed, whatever the transaction itself has done: what is learned from steps up to
 * this one may be kept in mind.
 */
export async function committedStep(tx: Tx, booksId: BooksId): Promise<number> {
  const [books] = await rowsOf(
    tx,
    StepRow,
    sql`select coalesce(nullif(current_setting('app.committed_step', true), '')::bigint, last_step) as step
        from books where id = ${booksId}`,
  );
  return books?.step ?? fail('BOOKS_UNKNOWN');
}
