import type { BooksOverview } from '@zubrell/contract/overview';
import { t } from '@zubrell/core/words/t';
import { MoreHorizontal } from 'lucide-react';
import { LateMenu } from '../../ui/LateMenu.tsx';

const load = async () => (await import('./BooksMenuOpened.tsx')).BooksMenuOpened;

/** What can be done with books from their row. */
export function BooksMenu({ books }: { readonly books: BooksOverview }) {
  if (books.role === 'client') return null;
  const button = {
    className: 'more btn btn-plain btn-sm',
    label: t`More for ${books.name}`,
    content: <MoreHorizontal size={14} aria-hidden />,
  };
  return <LateMenu button={button} load={load} props={{ books }} />;
}
