import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useBooks } from '../../app/useBooks.ts';
import { AmountField } from '../../ui/AmountField.tsx';
import { tx } from '../../ui/tx.tsx';
import { type DocumentDraft, type DraftLine, emptyLine, totalOf } from './documentForm.ts';
import { AccountAndTaxFields } from './PartFields.tsx';

/** The lines of a document, with tax, and what they come to. */
export function DocumentLines({
  draft,
  onChange,
}: {
  readonly draft: DocumentDraft;
  readonly onChange: (lines: readonly DraftLine[]) => void;
}) {
  const { amount } = useBooks();
  const { lines } = draft;
  const set = (at: number, part: Partial<DraftLine>) =>
    onChange(lines.map((line, place) => (place === at ? { ...line, ...part } : line)));
  return (
    <div className="document-lines">
      <div className="head small-heading" aria-hidden>
        <span>{t`Description`}</span>
        <span>{t`Account`}</span>
        <span>{t`Tax`}</span>
        <span className="num">{t`With tax`}</span>
        <span />
      </div>
      {lines.map((line, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: lines have no id and keep their places
        <div key={at}>
          <input
            className="form-control form-control-sm"
            aria-label={t`What line ${at + 1} is for`}
            value={line.text}
            maxLength={300}
            onChange={({ target }) => set(at, { text: target.value })}
          />
          <AccountAndTaxFields
            label={t`of line ${at + 1}`}
            accountId={line.accountId}
            taxCodeId={line.taxCodeId}
            areBanksIn={false}
            onChange={(accountId, taxCodeId) =>
              set(at, {
                accountId,
                taxCodeId,
                ...(taxCodeId === line.taxCodeId ? {} : { tax: null }),
              })
            }
          />
          <AmountField
            label={t`Amount of line ${at + 1}`}
            placeholder="0.00"
            value={line.amount}
            onChange={(value) => set(at, { amount: value, tax: null })}
          />
          <Button
            variant="link"
            aria-label={t`Remove line ${at + 1}`}
            disabled={lines.length === 1}
            onClick={() => onChange(lines.filter((_, place) => place !== at))}
          >
            ×
          </Button>
        </div>
      ))}
      <div className="foot">
        <Button variant="link" onClick={() => onChange([...lines, emptyLine])}>
          {t`Add line`}
        </Button>
        <span>{tx`Total ${<b>{amount(totalOf(draft))}</b>}`}</span>
      </div>
    </div>
  );
}
