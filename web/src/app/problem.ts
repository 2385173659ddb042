import type { ProblemDetails } from '@zubrell/contract/common';
import { t } from '@zubrell/core/words/t';

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
  if (isProblem(data)) return { code: data.code, message: data.title, params: data.params };
  return {
    code: 'OFFLINE',
    message: t`The server can’t be reached. What you typed is kept; try again in a moment.`,
    params: {},
  };
}

/** Whether an answer is one of ours: what stands between may answer with its own. */
function isProblem(data: unknown): data is ProblemDetails {
  if (typeof data !== 'object' || data === null) return false;
  const { code, title, params } = data as Partial<Record<keyof ProblemDetails, unknown>>;
  return (
    typeof code === 'string' &&
    typeof title === 'string' &&
    typeof params === 'object' &&
    params !== null
  );
}
