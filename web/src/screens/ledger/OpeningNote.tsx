import type { BankAccount } from '@zubrell/contract/books';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { ZubrellError } from '@zubrell/core/errors';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Button } from 'react-bootstrap';
import { booksApi } from '../../api/books.ts';
import { formatLongDate, readAmount } from '../../app/formats.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { RateField } from '../../ui/RateField.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { type DraftShare, OpeningClients, sharesOf } from './OpeningClients.tsx';

/** A bank account's opening balance, or typing it in where there is none yet. */
export function OpeningNote({ bankAccount }: { readonly bankAccount: BankAccount }) {
  const { amount } = useBooks();
  const { opening } = bankAccount;
  if (opening === null) return <OpeningForm bankAccount={bankAccount} />;
  return (
    <div className="px-3 mb-2">
      <p className="quiet m-0">
        {t`Opened with ${amount(opening.amount, { currency: bankAccount.currency })} on ${formatLongDate(opening.date)}.`}
      </p>
      {bankAccount.kind === 'clientMoney' && opening.amount > 0 && (
        <NameClientsForm
          key={JSON.stringify(opening.clients)}
          bankAccount={bankAccount}
          known={opening.clients}
        />
      )}
    </div>
  );
}

/** Says whose money an opening balance is, which a file may have brought. */
function NameClientsForm({
  bankAccount: { id: bankAccountId, currency },
  known,
}: {
  readonly bankAccount: BankAccount;
  readonly known: readonly DraftShare[];
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [isOpen, setIsOpen] = useState(false);
  const [shares, setShares] = useState<readonly DraftShare[]>(known);
  const [nameClients, { error, isLoading }] = booksApi.useNameClientsMutation();
  if (!isOpen) {
    return (
      <Button variant="link" className="p-0" onClick={() => setIsOpen(true)}>
        {t`Enter whose money it is`}
      </Button>
    );
  }
  return (
    <InCurrency currency={currency}>
      <OpeningClients shares={shares} onChange={setShares} />
      <Button
        variant="main"
        className="mt-1"
        disabled={isLoading}
        onClick={async () => {
          if (told(await nameClients({ booksId, bankAccountId, clients: sharesOf(shares) }))) {
            setIsOpen(false);
          }
        }}
      >
        {t`Save clients`}
      </Button>
      {error && <ErrorNote error={error} />}
    </InCurrency>
  );
}

function OpeningForm({ bankAccount }: { readonly bankAccount: BankAccount }) {
  const { booksId } = useBooks();
  const today = useToday();
  const { tell } = useUndo();
  const [postOpening, { error, isLoading }] = booksApi.usePostOpeningMutation();
  const [typed, setTyped] = useState('');
  const [date, setDate] = useState(addDays(bankAccount.firstDate ?? today, -1));
  const [rate, setRate] = useState<string | null>(null);
  const [clients, setClients] = useState<readonly DraftShare[]>([]);
  const [fault, setFault] = useState<string | undefined>(undefined);

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    try {
      const amount = readAmount(typed, bankAccount.currency);
      setFault(undefined);
      const bankAccountId = bankAccount.id;
      const known = sharesOf(clients);
      const ofClients = known.length === 0 ? {} : { clients: known };
      const answer = await postOpening({
        booksId,
        bankAccountId,
        date,
        amount,
        rate,
        ...ofClients,
      });
      if (answer.data) tell(answer.data.words, answer.data.step);
    } catch (caught) {
      if (!(caught instanceof ZubrellError)) throw caught;
      setFault(caught.message);
    }
  }

  return (
    <form className="opening" onSubmit={(event) => void save(event)}>
      <p className="m-0">
        {t`This account has no opening balance yet. Enter the bank’s balance before the first line; an amount owed is negative.`}
      </p>
      <TextField
        label={t`Balance`}
        inputMode="decimal"
        placeholder="0.00"
        value={typed}
        error={fault}
        onChange={(event) => setTyped(event.target.value)}
      />
      <DateField label={t`At the end of`} value={date} onChange={setDate} />
      <RateField currency={bankAccount.currency} date={date} value={rate} onChange={setRate} />
      {bankAccount.kind === 'clientMoney' && (
        <InCurrency currency={bankAccount.currency}>
          <OpeningClients shares={clients} onChange={setClients} />
        </InCurrency>
      )}
      <Button type="submit" variant="plain" disabled={isLoading}>
        {t`Post opening balance`}
      </Button>
      {error && <ErrorNote error={error} />}
    </form>
  );
}
