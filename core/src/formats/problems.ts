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
 * @param place where it is, or what gives that: most records need none
 * @throws whatever else `read` throws
 */
export function readOrNote<T>(
  problems: Problem[],
  place: ProblemPlace | (() => ProblemPlace),
  read: () => T,
): T | null {
  try {
    return read();
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    const at = typeof place === 'function' ? place() : place;
    problems.push(problem('refused', error.code, error.params, at));
    return null;
  }
}
