import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { booksApi } from '../../api/books.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';

/** The address of the business, below its name on invoices. */
export function AddressPanel() {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const [change, { isLoading }] = booksApi.useChangeBooksMutation();
  const { role, address, name, owners } = setup.books;
  const [typed, setTyped] = useState(address);
  const isLocked = role !== 'owner';
  return (
    <section className="sheet">
      <h2>Address on invoices</h2>
      <p className="quiet">
        {isLocked
          ? `${owners.join(', ')} can change this.`
          : `Stands below ${name} on invoices and credit notes.`}
      </p>
      <Form.Control
        as="textarea"
        rows={4}
        maxLength={500}
        aria-label="Address of the business"
        disabled={isLocked}
        value={typed}
        onChange={({ target }) => setTyped(target.value)}
      />
      {!isLocked && (
        <Button
          variant="plain"
          className="mt-2"
          disabled={isLoading || typed.trim() === address}
          onClick={() => void change({ booksId, address: typed.trim() }).then(told)}
        >
          Save address
        </Button>
      )}
    </section>
  );
}
