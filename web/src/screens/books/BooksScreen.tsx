import type { BooksOverview } from '@zubrell/contract/overview';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { booksApi } from '../../api/books.ts';
import { UserMenu } from '../../app/UserMenu.tsx';
import { useToday } from '../../app/useToday.ts';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { late } from '../../ui/late.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import './books.scss';
import { BooksTable } from './BooksTable.tsx';
import { type BooksOrder, headline, inOrder, leftToDo } from './booksShown.ts';

/** Seldom asked for, and not small. */
const MakeBooks = late(async () => (await import('./MakeBooks.tsx')).MakeBooks);

/** All books one may see, by what needs somebody first, and making new ones. */
export function BooksScreen() {
  const { data, error } = booksApi.useListBooksQuery(undefined, {
    refetchOnMountOrArgChange: true,
    pollingInterval: 60_000,
  });
  const [isMaking, setIsMaking] = useState(false);
  return (
    <div className="frame">
      <header className="top-bar">
        <span className="word">zubrell</span>
        <div className="right">
          <UserMenu />
        </div>
      </header>
      <main className="page">
        <div className="all-books">
          {error && <ErrorNote error={error} />}
          {!data && !error && <Waiting what={t`your books`} />}
          {data?.books.length === 0 && (
            <EmptyState title={t`No books yet`}>
              <p>{t`Create your first books, then import a bank file.`}</p>
              <Button variant="main" onClick={() => setIsMaking(true)}>
                {t`New books`}
              </Button>
            </EmptyState>
          )}
          {data && data.books.length > 0 && (
            <Overview books={data.books} onNew={() => setIsMaking(true)} />
          )}
        </div>
      </main>
      {isMaking && <MakeBooks onClose={() => setIsMaking(false)} />}
    </div>
  );
}

function Overview({
  books,
  onNew,
}: {
  readonly books: readonly BooksOverview[];
  readonly onNew: () => void;
}) {
  const today = useToday();
  const [order, setOrder] = useState<BooksOrder>('needs');
  const [shows, setShows] = useState<'active' | 'archived'>('active');
  const active = books.filter(({ isArchived }) => !isArchived);
  const archived = books.filter(({ isArchived }) => isArchived);
  const shown = shows === 'active' ? active : archived;
  return (
    <>
      <header className="books-head">
        <div>
          <h1>{headline(active, today)}</h1>
          <p className="quiet">{leftToDo(active)}</p>
        </div>
        <Segments
          label={t`Order`}
          choices={[
            ['needs', t`Needs you`],
            ['name', t`Name`],
            ['closed', t`Last closed`],
          ]}
          value={order}
          onChange={setOrder}
        />
        {archived.length > 0 && (
          <Segments
            label={t`Shown`}
            choices={[
              ['active', t`Active ${active.length}`],
              ['archived', t`Archived ${archived.length}`],
            ]}
            value={shows}
            onChange={setShows}
          />
        )}
        <Button variant="main" onClick={onNew}>
          {t`New books`}
        </Button>
      </header>
      {shown.length === 0 ? (
        <EmptyState title={shows === 'active' ? t`All books are archived` : t`Nothing archived`}>
          <p>{t`Archived books keep everything and can be taken out again at any time.`}</p>
        </EmptyState>
      ) : (
        <BooksTable books={inOrder(shown, order, today)} />
      )}
    </>
  );
}
