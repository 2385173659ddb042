import type { AccountType, ChangeBooks } from '@zubrell/contract/books';
import { type DemandedField, demandedFields, demandedNames } from '@zubrell/core/ledger/demands';
import { t } from '@zubrell/core/words/t';
import { Table } from 'react-bootstrap';
import { booksApi } from '../../api/books.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { AmountField } from '../../ui/AmountField.tsx';

const TYPES: readonly (readonly [AccountType, string])[] = [
  ['expense', t`Costs`],
  ['income', t`Income`],
  ['asset', t`Assets`],
  ['liability', t`Liabilities`],
  ['equity', t`Equity`],
];

const HEADS: Readonly<Record<DemandedField, string>> = {
  payeeId: t`Payee`,
  taxCodeId: t`Tax code`,
  costCentreId: t`Cost centre`,
  jobId: t`Job`,
  note: t`Note`,
};

/** What a coding must have, when a purchase may be an asset, who makes accounts: the owner's to say. */
export function DemandsPanel() {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const [changeBooks, { isLoading }] = booksApi.useChangeBooksMutation();
  const { role, demands, assetThreshold, accountsMadeBy } = setup.books;
  const isLocked = role !== 'owner' || isLoading;

  async function change(wanted: ChangeBooks): Promise<void> {
    told(await changeBooks({ booksId, ...wanted }));
  }

  function toggle(type: AccountType, field: DemandedField): void {
    const own = demands[type] ?? [];
    const next = own.includes(field) ? own.filter((each) => each !== field) : [...own, field];
    void change({ demands: { ...demands, [type]: next } });
  }

  return (
    <section className="sheet">
      <h2>{t`Required fields`}</h2>
      <p className="quiet">
        {role === 'owner'
          ? t`Ticked fields must be filled in before a line is posted.`
          : t`${setup.books.owners.join(', ')} can change this.`}
      </p>
      <Table className="demands">
        <thead>
          <tr>
            <th>{t`Coded to`}</th>
            {demandedFields.map((field) => (
              <th key={field}>{HEADS[field]}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {TYPES.map(([type, name]) => (
            <tr key={type}>
              <th scope="row">{name}</th>
              {demandedFields.map((field) => (
                <td key={field}>
                  <input
                    type="checkbox"
                    className="form-check-input"
                    aria-label={t`${name}: require ${demandedNames[field]}`}
                    disabled={isLocked}
                    checked={demands[type]?.includes(field) ?? false}
                    onChange={() => toggle(type, field)}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
      <div className="setting">
        <span>{t`Ask whether a purchase is a fixed asset from`}</span>
        <fieldset disabled={isLocked}>
          <AmountField
            label={t`Amount from which a purchase may be a fixed asset`}
            placeholder={t`never`}
            value={assetThreshold}
            onChange={(amount) => {
              const wanted = amount === null || amount === 0 ? null : Math.abs(amount);
              if (wanted !== assetThreshold) void change({ assetThreshold: wanted });
            }}
          />
        </fieldset>
      </div>
      <label className="setting">
        <input
          type="checkbox"
          className="form-check-input"
          disabled={isLocked}
          checked={accountsMadeBy === 'owner'}
          onChange={({ target }) =>
            void change({ accountsMadeBy: target.checked ? 'owner' : 'bookkeeper' })
          }
        />
        {t`Only the owner can add accounts`}
      </label>
    </section>
  );
}
