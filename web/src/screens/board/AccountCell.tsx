import type { BoardRow } from '@zubrell/contract/board';
import { t } from '@zubrell/core/words/t';
import { feedsApi } from '../../api/feeds.ts';
import { bankAccountLabel, useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';

/** A bank account with how far its lines are known. */
export function AccountCell({ row }: { readonly row: BoardRow }) {
  const { booksId, setup } = useBooks();
  const { data } = feedsApi.useFeedsQuery(booksId);
  const feed = data?.feeds.find(({ bankAccountId }) => bankAccountId === row.bankAccountId);
  const showDate = useShowDate();
  const bank = setup.bankAccounts.find(({ id }) => id === row.bankAccountId);
  return (
    <th scope="row">
      <b>{bank && bankAccountLabel(bank)}</b>
      <span className="quiet d-block">
        {row.knownTo === null ? t`no lines yet` : t`lines up to ${showDate(row.knownTo)}`}
        {row.knownTo !== null && bank?.opening === null && t`, no opening balance`}
      </span>
      {feed && (
        <span className={`d-block ${feed.result?.kind === 'trouble' ? 'trouble' : 'quiet'}`}>
          {feed.result?.kind === 'trouble'
            ? t`its feed needs attention`
            : feed.lastGoodAt === null
              ? t`feed not fetched yet`
              : t`feed of ${showDate(feed.lastGoodAt.slice(0, 10))}`}
        </span>
      )}
    </th>
  );
}
