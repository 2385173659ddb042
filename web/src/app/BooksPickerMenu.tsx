import { t } from '@zubrell/core/words/t';
import { Dropdown } from 'react-bootstrap';
import { Link } from 'react-router';
import { booksApi } from '../api/books.ts';
import type { LateProps } from '../ui/LateMenu.tsx';
import { MenuFrame } from '../ui/MenuFrame.tsx';

/** All books one may see, and the way to making new ones. */
export function BooksPickerMenu({ button, name }: LateProps & { readonly name: string }) {
  const { data } = booksApi.useListBooksQuery();
  return (
    <MenuFrame button={button}>
      {data?.books.map((books) => (
        <Dropdown.Item
          key={books.id}
          as={Link}
          to={`/books/${books.id}/board`}
          active={books.name === name}
        >
          {books.name}
        </Dropdown.Item>
      ))}
      <Dropdown.Divider />
      <Dropdown.Item as={Link} to="/">
        {t`All books, new books …`}
      </Dropdown.Item>
    </MenuFrame>
  );
}
