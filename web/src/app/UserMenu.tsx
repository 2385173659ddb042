import type { BooksId } from '@zubrell/core/ids';
import { useState } from 'react';
import { Dropdown } from 'react-bootstrap';
import { Link, useParams } from 'react-router';
import { booksApi } from '../api/books.ts';
import { sessionApi } from '../api/session.ts';
import { applyTheme, storedTheme, type Theme } from './theme.ts';

const THEMES: readonly (readonly [Theme, string])[] = [
  ['light', 'Light'],
  ['dark', 'Dark'],
  ['machine', 'As this machine'],
];

/** Who is signed in, the theme, and signing out. */
export function UserMenu() {
  const { data: session } = sessionApi.useSessionQuery();
  const [signOut] = sessionApi.useSignOutMutation();
  const [theme, setTheme] = useState(storedTheme);
  const { booksId } = useParams();
  const name = session?.user?.name ?? '';
  const initials = name
    .split(' ')
    .map((word) => word[0] ?? '')
    .join('')
    .slice(0, 2)
    .toUpperCase();
  return (
    <Dropdown align="end">
      <Dropdown.Toggle as="button" className="avatar">
        <span aria-hidden>{initials}</span>
        <span className="visually-hidden">{name}: theme, sign out</span>
      </Dropdown.Toggle>
      <Dropdown.Menu>
        <Dropdown.Header>{name}</Dropdown.Header>
        {booksId && <BooksItems booksId={booksId} />}
        {THEMES.map(([value, label]) => (
          <Dropdown.Item
            as="button"
            key={value}
            active={value === theme}
            onClick={() => {
              applyTheme(value);
              setTheme(value);
            }}
          >
            {label}
          </Dropdown.Item>
        ))}
        <Dropdown.Divider />
        <Dropdown.Item as={Link} to="/account">
          Your account
        </Dropdown.Item>
        <Dropdown.Item as="button" onClick={() => void signOut()}>
          Sign out
        </Dropdown.Item>
      </Dropdown.Menu>
    </Dropdown>
  );
}

/** Ways to what is rarely gone to in the books on the screen. */
function BooksItems({ booksId }: { readonly booksId: BooksId }) {
  const { data } = booksApi.useListBooksQuery();
  const role = data?.books.find(({ id }) => id === booksId)?.role;
  if (role === undefined || role === 'client') return null;
  return (
    <>
      <Dropdown.Item as={Link} to={`/books/${booksId}/settings`}>
        Settings of these books
      </Dropdown.Item>
      <Dropdown.Item as={Link} to={`/books/${booksId}/questions`}>
        Questions for you
      </Dropdown.Item>
      <Dropdown.Divider />
    </>
  );
}
