import type { DocumentSheet } from '@zubrell/contract/documents';
import { t } from '@zubrell/core/words/t';
import type { ReactNode } from 'react';
import { useBooks } from '../../app/useBooks.ts';

/** The files that are kept with a document or an entry. */
export function Attachments({
  attachments,
  children,
}: {
  readonly attachments: DocumentSheet['attachments'];
  /** What can be done there. */
  readonly children?: ReactNode;
}) {
  const { booksId } = useBooks();
  if (attachments.length === 0 && children === undefined) return null;
  return (
    <section>
      <h3 className="small-heading">{t`Attachments`}</h3>
      {attachments.map(({ id, fileName }) => (
        <a key={id} className="d-block" href={`/api/books/${booksId}/attachments/${id}`}>
          {fileName}
        </a>
      ))}
      {children}
    </section>
  );
}
