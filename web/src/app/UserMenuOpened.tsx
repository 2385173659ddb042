import type { BooksId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Dropdown } from 'react-bootstrap';
import { Link, useParams } from 'react-router';
import { booksApi } from '../api/books.ts';
import { sessionApi } from '../api/session.ts';
import type { LateProps } from '../ui/LateMenu.tsx';
import { MenuFrame } from '../ui/MenuFrame.tsx';
import { applyTheme, storedTheme, type Theme } from './theme.ts';

const THEMES: readonly (readonly [Theme, string])[] = [
  ['light', t`Light`],
  ['dark', t`Dark`],
  ['machine', t`Same as this device`],
];

/** The theme, what is seldom gone to, and signing out. */
export function UserMenuOpened({ button }: LateProps) {
  const { data: session } = sessionApi.useSessionQuery();
  const [signOut] = sessionApi.useSignOutMutation();
  const [theme, setTheme] = useState(storedTheme);
  const { booksId } = useParams();
  const name = session?.user?.name ?? '';
  return (
    <MenuFrame button={button} align="end">
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
        {t`Your account`}
      </Dropdown.Item>
      <Dropdown.Item as="button" onClick={() => void signOut()}>
        {t`Sign out`}
      </Dropdown.Item>
    </MenuFrame>
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
        {t`Settings of these books`}
      </Dropdown.Item>
      <Dropdown.Item as={Link} to={`/books/${booksId}/questions`}>
        {t`Questions for you`}
      </Dropdown.Item>
      <Dropdown.Divider />
    </>
  );
}
