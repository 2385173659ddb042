import {
  type ColumnRole,
  columnRoles,
  type TableLayout,
} from '@zubrell/core/formats/table/tableLayout';
import { t } from '@zubrell/core/words/t';

const ROLES: Readonly<Record<ColumnRole, string>> = {
  date: t`Date`,
  valueDate: t`Value date`,
  amount: t`Amount`,
  paidOut: t`Paid out`,
  paidIn: t`Paid in`,
  balance: t`Balance`,
  description: t`Description`,
  reference: t`Reference`,
  payee: t`Payee`,
  chequeNumber: t`Cheque number`,
  bankId: t`Bank’s id`,
  type: t`Type`,
  bankAccount: t`Account number`,
  cardholder: t`Cardholder or card`,
  currency: t`Currency`,
  status: t`Booked or not`,
  account: t`Coded to account`,
  tax: t`Tax code`,
  costCentre: t`Cost centre`,
};

/** The columns of a table as they stand in the file, each with what it is read as. */
export function ColumnStrip({
  layout,
  onChoose,
}: {
  readonly layout: TableLayout;
  readonly onChoose: (roles: readonly (ColumnRole | null)[]) => void;
}) {
  const { headings, roles, samples } = layout;

  function choose(column: number, role: ColumnRole | null): void {
    // A role is one column's; the column that had it is not used any more.
    onChoose(roles.map((each, at) => (at === column ? role : each === role ? null : each)));
  }

  return (
    <fieldset className="columns" aria-label={t`Columns of the file`}>
      {headings.map((heading, column) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: columns have no other name that is sure to be theirs alone
        <div key={column} className={roles[column] ? '' : 'unused'}>
          <select
            className="form-select"
            aria-label={t`Column ${heading || column + 1} is`}
            value={roles[column] ?? ''}
            onChange={({ target }) => choose(column, (target.value || null) as ColumnRole | null)}
          >
            <option value="">{t`Not used`}</option>
            {columnRoles.map((role) => (
              <option key={role} value={role}>
                {ROLES[role]}
              </option>
            ))}
          </select>
          <span title={heading}>{heading || ' '}</span>
          <span className="mono" title={samples[0]?.[column]}>
            {samples[0]?.[column] || ' '}
          </span>
        </div>
      ))}
    </fieldset>
  );
}
