import { DrizzleQueryError } from 'drizzle-orm';
import pg from 'pg';

/** What the database refused something with: its name for the error or SQLSTATE, and what it says of it. */
export interface Refusal {
  readonly code: string;
  readonly detail: string;
}

/** @returns what the database refuses some work with; null where it takes it */
export async function refusalOf(work: Promise<unknown>): Promise<Refusal | null> {
  try {
    await work;
    return null;
  } catch (error) {
    const cause = error instanceof DrizzleQueryError ? error.cause : error;
    if (!(cause instanceof pg.DatabaseError)) throw error;
    const code = cause.code === 'ZB001' ? cause.message : (cause.code ?? '');
    return { code, detail: cause.detail ?? '' };
  }
}
