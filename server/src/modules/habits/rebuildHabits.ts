import type { BooksId } from '@zubrell/core/ids';
import { type Memory, makeMemory } from '@zubrell/core/propose/habit/memory';
import type { Tx } from '../../db/database.ts';
import { committedStep } from '../steps/booksCommand.ts';
import { type Learned, replaceHabits, savedHabits } from './learnedHabits.ts';
import { taughtSince, teachAll } from './taughtLines.ts';

/** What came of learning anew. */
export interface Rebuilt {
  /** How many decided lines were learned. */
  readonly lines: number;
  /** How many lines had been kept up otherwise. */
  readonly differing: number;
}

/**
 * Learns all that is decided anew and saves it. It should be just what was kept up, step by step; whether it is, is
 * counted line by line.
 */
export async function rebuildHabits(tx: Tx, booksId: BooksId): Promise<Rebuilt> {
  const keptUp = await broughtUp(tx, booksId, await savedHabits(tx, booksId));
  const anew = await learnedAnew(tx, booksId);
  await replaceHabits(tx, booksId, anew);
  return { lines: anew.memory.size(), differing: countDiffering(keptUp, anew.memory) };
}

/** What all decisions teach that are there by now. */
export async function learnedAnew(tx: Tx, booksId: BooksId): Promise<Learned> {
  const step = await committedStep(tx, booksId);
  return { step, memory: await broughtUp(tx, booksId, { memory: makeMemory(), step: 0 }) };
}

async function broughtUp(tx: Tx, booksId: BooksId, { memory, step }: Learned): Promise<Memory> {
  for await (const lines of taughtSince(tx, booksId, step)) await teachAll(memory, lines);
  return memory;
}

/** How many lines two memories hold differently, or only one of them. */
export function countDiffering(one: Memory, other: Memory): number {
  const [ours, theirs] = [taughtBy(one), taughtBy(other)];
  const ids = new Set([...ours.keys(), ...theirs.keys()]);
  return [...ids].filter((id) => ours.get(id) !== theirs.get(id)).length;
}

/** What each line teaches, as a text, in the order in which it is heard. */
function taughtBy(memory: Memory): ReadonlyMap<string, string> {
  const all = memory.habits().flatMap(({ examples }) => examples);
  return new Map(
    all.map((example) => [
      example.id,
      JSON.stringify([
        example.label,
        example.day,
        example.position,
        example.amount,
        example.bankAccountId,
        example.accountId,
        example.payeeId,
        example.taxCodeId,
        example.weight,
        example.words,
        example.numbers,
      ]),
    ]),
  );
}
