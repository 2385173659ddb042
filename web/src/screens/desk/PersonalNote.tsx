import type { DraftCoding } from '@zubrell/contract/coding';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { drawingsAccounts } from '../../app/drawingsAccounts.ts';
import { useBooks } from '../../app/useBooks.ts';
import { tx } from '../../ui/tx.tsx';
import { splitPrivately } from './splitting/split.ts';

/** That personal spending is coded, not kept out, with ways to do so: to the drawings of any owner, whole or half. */
export function PersonalNote({
  onEdit,
}: {
  readonly onEdit: (change: (coding: DraftCoding) => DraftCoding) => void;
}) {
  const { setup } = useBooks();
  const drawings = drawingsAccounts(setup);
  if (drawings.length === 0) return null;
  return (
    <div className="quiet mt-3 mb-0">
      <p className="mb-0">
        {t`Personal spending did leave the account, so code it instead of excluding it:`}
      </p>
      {drawings.map(({ id, name }) => (
        <p key={id} className="mb-0">
          {tx`${(
            <Button
              variant="link"
              className="p-0 align-baseline"
              onClick={() =>
                onEdit((coding) => ({ ...coding, accountId: id, taxCodeId: null, parts: null }))
              }
            >
              {t`Code it to ${name}`}
            </Button>
          )}, or ${(
            <Button
              variant="link"
              className="p-0 align-baseline"
              onClick={() => onEdit((coding) => splitPrivately(coding, id))}
            >
              {t`only half of it`}
            </Button>
          )}`}
        </p>
      ))}
      <p className="mb-0">{t`You can change the share afterwards.`}</p>
    </div>
  );
}
