import { Dropdown } from 'react-bootstrap';
import { Link } from 'react-router';
import { booksApi } from '../api/books.ts';

/** Goes from one set of books to another. */
export function BooksPicker({ name }: { readonly name: string }) {
  const { data } = booksApi.useListBooksQuery();
  return (
    <Dropdown>
      <Dropdown.Toggle variant="plain" className="picker" id="books-picker">
        <span>{name}</span>
      </Dropdown.Toggle>
      <Dropdown.Menu>
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
          All books, new books …
        </Dropdown.Item>
      </Dropdown.Menu>
    </Dropdown>
  );
}
