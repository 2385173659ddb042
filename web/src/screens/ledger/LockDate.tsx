import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { booksApi } from '../../api/books.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { useTyped } from '../../ui/useTyped.ts';

/** Up to when the books are closed; the owner may move it. */
export function LockDate() {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const [changeBooks, { isLoading }] = booksApi.useChangeBooksMutation();
  const { lockDate, role } = setup.books;
  const [date, setDate] = useTyped(lockDate ?? '');

  async function save(wanted: string | null): Promise<void> {
    told(await changeBooks({ booksId, lockDate: wanted }));
  }

  return (
    <section className="lock-date">
      <h2 className="small-heading">{t`Closed periods`}</h2>
      <p className="quiet">
        {lockDate === null
          ? t`No period is closed.`
          : t`Closed up to ${formatLongDate(lockDate)}: nothing dated in that period can change.`}
      </p>
      {role === 'owner' && (
        <div className="d-flex gap-2">
          <DateField
            label={t`Close the books up to`}
            labelled="hidden"
            value={date}
            onChange={setDate}
          />
          <Button
            variant="plain"
            disabled={isLoading || date === '' || date === lockDate}
            onClick={() => void save(date)}
          >
            {t`Close`}
          </Button>
          {lockDate !== null && (
            <Button variant="plain" onClick={() => void save(null)}>
              {t`Open all`}
            </Button>
          )}
        </div>
      )}
    </section>
  );
}
