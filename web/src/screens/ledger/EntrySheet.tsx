import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { api } from '../../app/api.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';

/** An entry with its legs and the line it came from. */
export function EntrySheet({
  entryId,
  onClose,
}: {
  readonly entryId: string;
  readonly onClose: () => void;
}) {
  const { booksId, setup, accountName, payeeName, taxName, amount } = useBooks();
  const { data: entry, error } = api.useEntryQuery({ booksId, entryId });
  const { undo } = useUndo();
  const showDate = useShowDate();
  return (
    <aside className="entry" aria-label="Entry">
      <header>
        <h2>Entry</h2>
        <button
          type="button"
          className="btn-close"
          aria-label="Close the entry"
          onClick={onClose}
        />
      </header>
      {error && <ErrorNote error={error} />}
      {!entry && !error && <Waiting what="the entry" />}
      {entry && (
        <>
          {entry.isVoid && <p className="note off">Void: its step was taken back.</p>}
          <div className="facts">
            <span>Date</span>
            <span>{formatLongDate(entry.date)}</span>
            {entry.payeeId && (
              <>
                <span>Payee</span>
                <span>{payeeName(entry.payeeId)}</span>
              </>
            )}
            {entry.note && (
              <>
                <span>Note</span>
                <span>{entry.note}</span>
              </>
            )}
            <span>Made by</span>
            <span>
              {entry.who}, {showDate(entry.at.slice(0, 10))}, step {entry.step}
            </span>
          </div>
          <Table>
            <thead>
              <tr>
                <th>Account</th>
                <th className="num">Debit</th>
                <th className="num">Credit</th>
              </tr>
            </thead>
            <tbody>
              {entry.legs.map((leg) => (
                <tr key={leg.id}>
                  <td>
                    <Link to={`/books/${booksId}/ledger/${leg.accountId}?entry=${entry.id}`}>
                      {accountName(leg.accountId)}
                    </Link>
                    {leg.taxCodeId && (
                      <span className="quiet d-block">
                        {leg.role === 'tax' ? 'tax' : 'net'}, {taxName(leg.taxCodeId)}
                      </span>
                    )}
                    {[leg.costCentreId, leg.jobId].map(
                      (id) =>
                        id && (
                          <span key={id} className="quiet d-block">
                            {setup.costObjects.find((each) => each.id === id)?.name}
                            {id === leg.jobId && leg.isRecharged && ', to be recharged'}
                          </span>
                        ),
                    )}
                  </td>
                  <td className="num">{leg.amount > 0 && amount(leg.amount)}</td>
                  <td className="num">{leg.amount < 0 && amount(-leg.amount)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
          {entry.line && (
            <section>
              <h3 className="small-heading">From the bank’s line</h3>
              <div className="wording-box mono">{entry.line.description}</div>
              <span className="quiet">
                {formatLongDate(entry.line.date)}, {amount(entry.line.amount, { plus: true })}
              </span>
            </section>
          )}
          {!entry.isVoid && (
            <button
              type="button"
              className="btn btn-plain"
              onClick={() => void undo(entry.step).then(onClose)}
            >
              Take back its step
            </button>
          )}
        </>
      )}
    </aside>
  );
}
