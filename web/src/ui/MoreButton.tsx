import type { ReactNode } from 'react';

/** Fetches the next page of a list, as long as there is one. */
export function MoreButton({
  pages: { hasNextPage, isFetching, fetchNextPage },
  children,
}: {
  readonly pages: {
    readonly hasNextPage: boolean;
    readonly isFetching: boolean;
    readonly fetchNextPage: () => unknown;
  };
  /** What the button says. */
  readonly children: ReactNode;
}) {
  if (!hasNextPage) return null;
  return (
    <button
      type="button"
      className="btn btn-plain mt-3"
      disabled={isFetching}
      onClick={() => void fetchNextPage()}
    >
      {children}
    </button>
  );
}
