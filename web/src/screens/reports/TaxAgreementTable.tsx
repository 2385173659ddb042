import type { TaxFigures } from '@zubrell/contract/tax';
import { taxUnexplained } from '@zubrell/core/tax/taxReturn';
import { t } from '@zubrell/core/words/t';
import { Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';

/** What the tax accounts say, against what is reported. Credits are shown as tax owed. */
export function TaxAgreementTable({
  agreement,
  to,
}: {
  readonly agreement: TaxFigures['agreement'];
  readonly to: string;
}) {
  const { booksId, amount, accountName } = useBooks();
  const owed = (minor: number) => amount(minor === 0 ? 0 : -minor);
  const off = taxUnexplained(agreement);
  const said: readonly (readonly [string, number])[] = [
    [t`This return`, agreement.own],
    [t`Earlier returns`, agreement.earlier],
    [t`Payments and journals on the tax accounts`, agreement.others],
  ];
  return (
    <Table className="report-table agreement">
      <thead>
        <tr>
          <th scope="col">{t`Tax accounts on ${formatLongDate(to)}`}</th>
          <th scope="col" className="num">
            {t`Owed`}
          </th>
        </tr>
      </thead>
      <tbody>
        {agreement.accounts.map(({ accountId, balance }) => (
          <tr key={accountId}>
            <th scope="row">
              <Link to={`/books/${booksId}/ledger/${accountId}`}>{accountName(accountId)}</Link>
            </th>
            <td className="num">{owed(balance)}</td>
          </tr>
        ))}
        <tr className="of-sum">
          <th scope="row">{t`Total of the tax accounts`}</th>
          <td className="num">{owed(agreement.balance)}</td>
        </tr>
        {said.map(([label, minor]) => (
          <tr key={label}>
            <th scope="row">{label}</th>
            <td className="num">{owed(minor)}</td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr className="of-result">
          <th scope="row">{t`Unexplained`}</th>
          <td className={`num ${off === 0 ? '' : 'trouble'}`}>{owed(off)}</td>
        </tr>
      </tfoot>
    </Table>
  );
}
