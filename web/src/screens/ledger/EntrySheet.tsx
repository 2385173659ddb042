import type { Entry } from '@zubrell/contract/ledger';
import type { EntryId } from '@zubrell/core/ids';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { t } from '@zubrell/core/words/t';
import { Fragment } from 'react';
import { CloseButton, Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { ledgerApi } from '../../api/ledger.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { shortRate } from '../../ui/RateField.tsx';
import { tx } from '../../ui/tx.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { documentAddress } from './documentAddress.ts';
import { EntryActions } from './EntryActions.tsx';
import { EntryAttachments } from './EntryAttachments.tsx';
import { EntryLines } from './EntryLines.tsx';

const KINDS: Readonly<Record<Entry['kind'], string>> = {
  line: t`Posted from a line`,
  opening: t`Opening balance`,
  payment: t`Payment entered by hand`,
  receipt: t`Receipt entered by hand`,
  cheque: t`Cheque entered by hand`,
  deposit: t`Deposit entered by hand`,
  transfer: t`Transfer entered by hand`,
  paidPrivately: t`Cost paid privately`,
  journal: t`Journal entered by hand`,
  document: t`Entry of a document`,
  settlement: t`Payment made by pairing`,
  valuation: t`Valuation of other currencies`,
};

/** An entry with its legs, the lines it came from or is paired with, and what it pays. */
export function EntrySheet({
  entryId,
  onClose,
}: {
  readonly entryId: EntryId;
  readonly onClose: () => void;
}) {
  const { booksId, setup, accountName, payeeName, taxName, amount } = useBooks();
  const { data: entry, error } = ledgerApi.useEntryQuery({ booksId, entryId });
  const showDate = useShowDate();
  return (
    <aside className="entry" aria-label={t`Entry`}>
      <header>
        <h2>{t`Entry`}</h2>
        <CloseButton aria-label={t`Close the entry`} onClick={onClose} />
      </header>
      {error && <ErrorNote error={error} />}
      {!entry && !error && <Waiting what={t`the entry`} />}
      {entry && (
        <>
          {entry.isVoid && (
            <p className="note off">
              {t`Void: it no longer counts.`}
              {entry.replacedBy && ` ${t`It was replaced by another entry.`}`}
            </p>
          )}
          <div className="facts">
            {entry.exchange && (
              <>
                <span>{t`Rate`}</span>
                <span>
                  1 {entry.exchange.currency} = {shortRate(entry.exchange.rate)}{' '}
                  {setup.books.currency}
                </span>
              </>
            )}
            <span>{t`What`}</span>
            <span>
              {KINDS[entry.kind]}
              {entry.number && `, ${entry.number}`}
            </span>
            <span>{t`Date`}</span>
            <span>{formatLongDate(entry.date)}</span>
            {entry.payeeId && (
              <>
                <span>{t`Payee`}</span>
                <span>{payeeName(entry.payeeId)}</span>
              </>
            )}
            {[[t`Paid by`, entry.method] as const, [t`Reference`, entry.reference] as const].map(
              ([name, fact]) =>
                fact && (
                  <Fragment key={name}>
                    <span>{name}</span>
                    <span>{fact}</span>
                  </Fragment>
                ),
            )}
            {entry.note && (
              <>
                <span>{t`Note`}</span>
                <span>{entry.note}</span>
              </>
            )}
            {[...(entry.document ? [entry.document] : []), ...entry.pays].map((document) => (
              <Fragment key={document.id}>
                <span>{document.id === entry.document?.id ? t`Of` : t`Pays`}</span>
                <span>
                  <Link to={documentAddress(booksId, document)}>{candidateName(document)}</Link>
                </span>
              </Fragment>
            ))}
            {[
              [t`Reverses`, entry.reverses] as const,
              [t`Reversed by`, entry.reversedBy] as const,
            ].map(
              ([name, other]) =>
                other && (
                  <Fragment key={name}>
                    <span>{name}</span>
                    <span>
                      <Link to={`?entry=${other.id}`}>
                        {t`the entry of ${formatLongDate(other.date)}`}
                      </Link>
                    </span>
                  </Fragment>
                ),
            )}
            {entry.plan && (
              <>
                <span>{t`Recurring`}</span>
                <span>
                  {tx`${<Link to={`/books/${booksId}/ledger/recurring`}>{entry.plan.name}</Link>}, for ${showDate(entry.plan.date)}`}
                </span>
              </>
            )}
            {entry.replaces && (
              <>
                <span>{t`Instead of`}</span>
                <span>{t`an entry that was changed and is void`}</span>
              </>
            )}
            <span>{t`Made by`}</span>
            <span>{t`${entry.who}, ${showDate(entry.at.slice(0, 10))}, step ${entry.step}`}</span>
          </div>
          <Table>
            <thead>
              <tr>
                <th>{t`Account`}</th>
                <th className="num">{t`Debit`}</th>
                <th className="num">{t`Credit`}</th>
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
                        {leg.role === 'tax' ? t`tax` : t`net`}, {taxName(leg.taxCodeId)}
                      </span>
                    )}
                    {[leg.costCentreId, leg.jobId].map(
                      (id) =>
                        id && (
                          <span key={id} className="quiet d-block">
                            {setup.costObjects.find((each) => each.id === id)?.name}
                            {id === leg.jobId && leg.isRecharged && t`, to be recharged`}
                          </span>
                        ),
                    )}
                    <LegClients leg={leg} />
                  </td>
                  <td className="num">
                    {leg.amount > 0 && amount(leg.amount)}
                    <OriginalAmount entry={entry} leg={leg} isDebit />
                  </td>
                  <td className="num">
                    {leg.amount < 0 && amount(-leg.amount)}
                    <OriginalAmount entry={entry} leg={leg} isDebit={false} />
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
          <EntryAttachments entry={entry} />
          <EntryLines entry={entry} />
          <EntryActions entry={entry} onClose={onClose} />
        </>
      )}
    </aside>
  );
}

/** Whose money moved, where the bank account holds clients' money. */
function LegClients({ leg: { accountId, clients } }: { readonly leg: Entry['legs'][number] }) {
  const { setup, payeeName, amount } = useBooks();
  const currency = setup.bankAccounts.find((bank) => bank.accountId === accountId)?.currency;
  return clients.map((share) => (
    <span key={share.clientId} className="quiet d-block">
      {t`of ${payeeName(share.clientId)}`}
      {clients.length > 1 &&
        `, ${amount(share.amount, { plus: true, ...(currency ? { currency } : {}) })}`}
    </span>
  ));
}

/** What a leg is in the other currency, below what it is in the books'. */
function OriginalAmount({
  entry: { exchange },
  leg,
  isDebit,
}: {
  readonly entry: Entry;
  readonly leg: Entry['legs'][number];
  readonly isDebit: boolean;
}) {
  const { setup, amount } = useBooks();
  const there = setup.bankAccounts.find(({ accountId }) => accountId === leg.accountId);
  const currency = there?.currency ?? exchange?.currency;
  if (leg.original === null || leg.original === 0 || currency === undefined) return null;
  if (leg.original > 0 !== isDebit) return null;
  return <small className="quiet d-block">{amount(Math.abs(leg.original), { currency })}</small>;
}
