import type { DeskLine } from '@zubrell/contract/desk';
import type { Coding } from '@zubrell/core/ledger/coding';
import { t } from '@zubrell/core/words/t';
import { useBooks } from '../../app/useBooks.ts';
import { entryPreview } from './entryPreview.ts';

/** The entry that posting a line will make, leg by leg. */
export function EntryPreview({
  line,
  coding,
}: {
  readonly line: Pick<DeskLine, 'amount' | 'date' | 'bankAccountId'>;
  readonly coding: Coding;
}) {
  const { setup, accountName, amount } = useBooks();
  const preview = entryPreview(setup, line, coding);
  if (preview.kind === 'wrong') {
    return (
      <p className="doubt mt-2 mb-0" role="status">
        {preview.message}
      </p>
    );
  }
  return (
    <table className="entry-preview">
      <caption className="small-heading">{t`Resulting entry`}</caption>
      <thead>
        <tr>
          <th>{t`Account`}</th>
          <th className="num">{t`Debit`}</th>
          <th className="num">{t`Credit`}</th>
        </tr>
      </thead>
      <tbody>
        {preview.legs.map((leg, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: legs have no other name than their place
          <tr key={index} className={leg.role === 'tax' ? 'quiet' : ''}>
            <td>{accountName(leg.accountId)}</td>
            <td className="num">{leg.amount > 0 && amount(leg.amount)}</td>
            <td className="num">{leg.amount < 0 && amount(-leg.amount)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
