import { type Database, inBooks } from '../db/database.ts';
import { type SaveHabitsJob, saveLearned } from '../modules/habits/booksMemory.ts';

/** Saves what habits of books learned by now. @param jobs all of the same books */
export async function saveHabits(
  database: Database,
  jobs: readonly SaveHabitsJob[],
): Promise<void> {
  const [first] = jobs;
  if (first) await inBooks(database, first.booksId, (tx) => saveLearned(tx, first.booksId));
}
