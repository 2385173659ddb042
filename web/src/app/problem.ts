import { ProblemDetails } from '@zubrell/contract/common';

/** What to tell of a request that failed. */
export interface ShownProblem {
  readonly code: string;
  readonly message: string;
}

/** The words for a failed request, whatever it failed with. */
export function shownProblem(error: unknown): ShownProblem {
  const data =
    typeof error === 'object' && error !== null && 'data' in error ? error.data : undefined;
  const details = ProblemDetails.safeParse(data);
  if (details.success) return { code: details.data.code, message: details.data.title };
  return {
    code: 'OFFLINE',
    message: 'The server can’t be reached. What you typed is kept; try again in a moment.',
  };
}
