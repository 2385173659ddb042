import type { Payee, PayeeUse } from '@zubrell/contract/books';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { booksApi } from '../../api/books.ts';
import { counted, formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { useTyped } from '../../ui/useTyped.ts';
import { PayeeTermsDialog } from './PayeeTermsDialog.tsx';

const KINDS: readonly (readonly [Payee['kind'], string])[] = [
  ['supplier', t`Supplier`],
  ['customer', t`Customer`],
  ['employee', t`Employee`],
  ['owner', t`Owner`],
  ['relatedBusiness', t`Related business`],
  ['taxOffice', t`Tax office`],
  ['other', t`Other`],
];

/** What leads to a payee's terms, address and own accounts. */
function termsWords({ kind, accountId, termsDays }: Payee): string {
  const hasOwn = kind === 'owner' || kind === 'relatedBusiness';
  if (hasOwn) return accountId === null ? t`Set accounts` : t`Own accounts`;
  return termsDays === null ? t`Set terms` : counted(termsDays, 'day', 'days');
}

/** One payee, changed in place. */
export function PayeeRow({ payee, use }: { readonly payee: Payee; readonly use: PayeeUse }) {
  const { booksId, setup, accountName } = useBooks();
  const showDate = useShowDate();
  const { told } = useUndo();
  const [name, setName] = useTyped(payee.name);
  const [isOpen, setIsOpen] = useState(false);
  const [changePayee] = booksApi.useChangePayeeMutation();
  const [mergePayee] = booksApi.useMergePayeeMutation();
  const payeeId = payee.id;

  const change = async (wanted: object) => told(await changePayee({ booksId, payeeId, ...wanted }));

  return (
    <tr className={payee.isOn ? '' : 'quiet'}>
      <td>
        <input
          className="form-control form-control-sm"
          aria-label={t`Name of ${payee.name}`}
          value={name}
          onChange={({ target }) => setName(target.value)}
          onBlur={() => {
            if (name.trim() === '') setName(payee.name);
            else if (name.trim() !== payee.name) void change({ name: name.trim() });
          }}
        />
      </td>
      <td>
        <select
          className="form-select form-select-sm"
          aria-label={t`Kind of ${payee.name}`}
          value={payee.kind}
          onChange={({ target }) => void change({ kind: target.value })}
        >
          {KINDS.map(([kind, label]) => (
            <option key={kind} value={kind}>
              {label}
            </option>
          ))}
        </select>
      </td>
      <td>
        <Button variant="link" className="p-0" onClick={() => setIsOpen(true)}>
          {termsWords(payee)}
        </Button>
        {isOpen && <PayeeTermsDialog payee={payee} onClose={() => setIsOpen(false)} />}
      </td>
      <td>{accountName(use.usualAccountId)}</td>
      <td className="num">
        {use.entryCount > 0 && (
          <Link to={`/books/${booksId}/desk?lane=decided&q=${encodeURIComponent(payee.name)}`}>
            {formatCount(use.entryCount)}
          </Link>
        )}
      </td>
      <td>{use.lastDate && showDate(use.lastDate)}</td>
      <td>
        <input
          type="checkbox"
          className="form-check-input"
          aria-label={t`${payee.name} is in use`}
          checked={payee.isOn}
          onChange={({ target }) => void change({ isOn: target.checked })}
        />
      </td>
      <td>
        <select
          className="form-select form-select-sm"
          aria-label={t`Merge ${payee.name} into`}
          value=""
          onChange={async ({ target }) =>
            told(await mergePayee({ booksId, payeeId, into: target.value }))
          }
        >
          <option value="">{t`itself`}</option>
          {setup.payees
            .filter(({ id, isOn, mergedInto }) => id !== payeeId && isOn && mergedInto === null)
            .map((other) => (
              <option key={other.id} value={other.id}>
                {other.name}
              </option>
            ))}
        </select>
      </td>
    </tr>
  );
}
