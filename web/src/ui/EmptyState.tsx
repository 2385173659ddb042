import type { ReactNode } from 'react';

/** What a list says when there is nothing in it: that, and what to do next. */
export function EmptyState({
  title,
  children,
}: {
  readonly title: string;
  readonly children: ReactNode;
}) {
  return (
    <div className="empty-state">
      <h2>{title}</h2>
      {children}
    </div>
  );
}
