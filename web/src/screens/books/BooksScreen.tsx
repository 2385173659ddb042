import { Link } from 'react-router';
import { booksApi } from '../../api/books.ts';
import { UserMenu } from '../../app/UserMenu.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import './books.scss';
import { NewBooksForm } from './NewBooksForm.tsx';

/** All books one may see, and making new ones. */
export function BooksScreen() {
  const { data, error } = booksApi.useListBooksQuery();
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
          <h1>Books</h1>
          {error && <ErrorNote error={error} />}
          {!data && !error && <Waiting what="your books" />}
          {data?.books.length === 0 && (
            <EmptyState title="No books yet">
              <p>Make the first below, then drop a bank file into its Intake.</p>
            </EmptyState>
          )}
          <ul>
            {data?.books.map((books) => (
              <li key={books.id}>
                <Link
                  to={`/books/${books.id}/${books.role === 'client' ? 'questions' : 'board'}`}
                  className="sheet"
                >
                  <b>{books.name}</b>
                  <span className="quiet">
                    {books.currency}, {books.role}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
          <NewBooksForm />
        </div>
      </main>
    </div>
  );
}
