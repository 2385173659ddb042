import { ProblemDetails } from '@zubrell/contract/common';

/** What to tell of a request that failed. */
export interface ShownProblem {
  readonly code: string;
  readonly message: string;
  /** What stands in the placeholders of the message, and more. */
  readonly params: Readonly<Record<string, string | number>>;
}

/** The words for a failed request, whatever it failed with. */
export function shownProblem(error: unknown): ShownProblem {
  const data =
    typeof error === 'object' && error !== null && 'data' in error ? error.data : undefined;
  const details = ProblemDetails.safeParse(data);
  if (details.success) {
    const { code, title, params } = details.data;
    return { code, message: title, params };
  }
  return {
    code: 'OFFLINE',
    message: 'The server can’t be reached. What you typed is kept; try again in a moment.',
    params: {},
  };
}
