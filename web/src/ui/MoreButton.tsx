import type { ReactNode } from 'react';
import { Button } from 'react-bootstrap';

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
    <Button
      variant="plain"
      className="mt-3"
      disabled={isFetching}
      onClick={() => void fetchNextPage()}
    >
      {children}
    </Button>
  );
}
