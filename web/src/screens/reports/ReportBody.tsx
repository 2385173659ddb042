import { t } from '@zubrell/core/words/t';
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
  emptyWords,
  children,
}: {
  readonly title: string;
  /** What it comes to; null while it is read. */
  readonly words: ReactNode;
  readonly error: unknown;
  readonly isEmpty: boolean;
  /** What an empty report says; that there are no entries without it. */
  readonly emptyWords?: string;
  readonly children: ReactNode;
}) {
  return (
    <section className="report" aria-label={title}>
      <h1>{title}</h1>
      {error !== undefined && <ErrorNote error={error} />}
      {error === undefined && words === null && <Waiting what={t`the report`} />}
      {isEmpty ? (
        <EmptyState
          title={emptyWords === undefined ? t`No entries in this period` : t`Nothing to show`}
        >
          <p>{emptyWords ?? t`Choose another period above, or post lines on the Desk.`}</p>
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
