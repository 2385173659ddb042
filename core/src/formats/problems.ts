import { type ErrorCode, type ErrorParams, messageOf, ZubrellError } from '../errors.ts';
import type { Minor } from '../money/minor.ts';
import type { Problem } from './bankFile.ts';

/** Where a problem is and what record it is about. */
export interface ProblemPlace {
  readonly line: number;
  readonly field?: string | null;
  readonly excerpt?: string | null;
  readonly amount?: Minor | null;
}

/** A problem with the words the error table has for it. */
export function problem(
  severity: Problem['severity'],
  code: ErrorCode,
  params: ErrorParams,
  place: ProblemPlace,
): Problem {
  return {
    severity,
    line: place.line,
    field: place.field ?? null,
    code,
    message: messageOf(code, params),
    excerpt: place.excerpt?.slice(0, 200) ?? null,
    amount: place.amount ?? null,
  };
}

/**
 * What `read` gives, or null with a refused problem noted when it throws an error of the table.
 *
 * @throws whatever else `read` throws
 */
export function readOrNote<T>(problems: Problem[], place: ProblemPlace, read: () => T): T | null {
  try {
    return read();
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    problems.push(problem('refused', error.code, error.params, place));
    return null;
  }
}
