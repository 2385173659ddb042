import { t } from '@zubrell/core/words/t';
import { Button, Form } from 'react-bootstrap';
import { booksApi } from '../../api/books.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { useTyped } from '../../ui/useTyped.ts';

/** The address of the business, below its name on invoices. */
export function AddressPanel() {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const [change, { isLoading }] = booksApi.useChangeBooksMutation();
  const { role, address, taxNumber, country, name, owners } = setup.books;
  const [typedAddress, setAddress] = useTyped(address);
  const [typedNumber, setNumber] = useTyped(taxNumber);
  const [typedCountry, setCountry] = useTyped(country);
  const typed = {
    address: typedAddress.trim(),
    taxNumber: typedNumber.trim(),
    country: typedCountry,
  };
  const isCountry = /^([A-Z]{2})?$/.test(typedCountry);
  const isSame =
    typed.address === address && typed.taxNumber === taxNumber && typed.country === country;
  const isLocked = role !== 'owner';
  return (
    <section className="sheet">
      <h2>{t`Address on invoices`}</h2>
      <p className="quiet">
        {isLocked
          ? t`${owners.join(', ')} can change this.`
          : t`Printed below ${name} on invoices and credit notes. Electronic invoices need the tax number and the country.`}
      </p>
      <Form.Control
        as="textarea"
        rows={4}
        maxLength={500}
        aria-label={t`Address of the business`}
        disabled={isLocked}
        value={typedAddress}
        onChange={({ target }) => setAddress(target.value)}
      />
      <div className="d-flex gap-3 mt-2">
        <TextField
          label={t`Tax number`}
          maxLength={40}
          disabled={isLocked}
          value={typedNumber}
          onChange={({ target }) => setNumber(target.value)}
        />
        <TextField
          label={t`Country`}
          placeholder={t`two letters`}
          maxLength={2}
          disabled={isLocked}
          error={isCountry ? undefined : t`A country has two letters`}
          value={typedCountry}
          onChange={({ target }) => setCountry(target.value.toUpperCase())}
        />
      </div>
      {!isLocked && (
        <Button
          variant="plain"
          className="mt-2"
          disabled={isLoading || isSame || !isCountry}
          onClick={() => void change({ booksId, ...typed }).then(told)}
        >
          {t`Save address`}
        </Button>
      )}
    </section>
  );
}
