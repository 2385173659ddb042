import {
  type ColumnRole,
  columnRoles,
  type TableLayout,
} from '@zubrell/core/formats/table/tableLayout';

const ROLES: Readonly<Record<ColumnRole, string>> = {
  date: 'Date',
  valueDate: 'Value date',
  amount: 'Amount',
  paidOut: 'Paid out',
  paidIn: 'Paid in',
  balance: 'Balance',
  description: 'Description',
  reference: 'Reference',
  payee: 'Payee',
  chequeNumber: 'Cheque number',
  bankId: 'Bank’s id',
  type: 'Type',
  bankAccount: 'Account number',
  cardholder: 'Cardholder or card',
  currency: 'Currency',
  status: 'Booked or not',
  account: 'Coded to account',
  tax: 'Tax code',
  costCentre: 'Cost centre',
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
    <fieldset className="columns" aria-label="Columns of the file">
      {headings.map((heading, column) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: columns have no other name that is sure to be theirs alone
        <div key={column} className={roles[column] ? '' : 'unused'}>
          <select
            className="form-select"
            aria-label={`Column ${heading || column + 1} is`}
            value={roles[column] ?? ''}
            onChange={({ target }) => choose(column, (target.value || null) as ColumnRole | null)}
          >
            <option value="">Not used</option>
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
