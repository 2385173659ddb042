import type { ReactNode } from 'react';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';

/** A report with its title and what it comes to in words, or why there is none. */
export function ReportBody({
  title,
  words,
  error,
  isEmpty,
  children,
}: {
  readonly title: string;
  /** What it comes to; null while it is read. */
  readonly words: ReactNode;
  readonly error: unknown;
  readonly isEmpty: boolean;
  readonly children: ReactNode;
}) {
  return (
    <section className="report" aria-label={title}>
      <h1>{title}</h1>
      {error !== undefined && <ErrorNote error={error} />}
      {error === undefined && words === null && <Waiting what="the report" />}
      {isEmpty ? (
        <EmptyState title="No entries in this period">
          <p>Choose other days above, or post lines on the Desk: the report shows them at once.</p>
        </EmptyState>
      ) : (
        <>
          {words !== null && <p className="quiet">{words}</p>}
          {children}
        </>
      )}
    </section>
  );
}
