import type { ListedDocument } from '@zubrell/contract/documents';
import { handDirection } from '@zubrell/core/ledger/entries';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { t } from '@zubrell/core/words/t';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { AmountField } from '../../ui/AmountField.tsx';
import { canSettle, type HandDraft, restOf } from './handForm.ts';
import { usePayeeDocuments } from './usePayeeDocuments.ts';

/** What is open of the payee, to be ticked with how much of it an entry settles. */
export function SettledDocuments({
  draft,
  onChange,
}: {
  readonly draft: HandDraft;
  readonly onChange: (part: Partial<HandDraft>) => void;
}) {
  const { amount, payeeName } = useBooks();
  const documents = useSettleable(draft);
  if (!canSettle(draft)) return null;
  const rest = restOf(draft);
  const settledOf = (id: string) =>
    draft.settles.find(({ documentId }) => documentId === id)?.amount ?? null;

  function settle(document: ListedDocument, part: number | null): void {
    const others = draft.settles.filter(({ documentId }) => documentId !== document.id);
    const settles =
      part === null || part === 0 ? others : [...others, { documentId: document.id, amount: part }];
    const isFilled = rest === 0 || draft.amount === null;
    const total = Math.abs(settles.reduce((sum, each) => sum + each.amount, 0));
    // The amount follows what is ticked, until another one is typed.
    onChange(isFilled ? { settles, amount: total || null } : { settles });
  }

  return (
    <fieldset className="settled-documents">
      <legend className="small-heading">{t`Settled items`}</legend>
      {documents.length === 0 && (
        <p className="quiet mb-0">{t`Nothing is open for ${payeeName(draft.payeeId)}.`}</p>
      )}
      {documents.map((document) => {
        const part = settledOf(document.id);
        const name = candidateName(document);
        return (
          <div key={document.id}>
            <label>
              <input
                type="checkbox"
                className="form-check-input"
                checked={part !== null}
                onChange={({ target }) => settle(document, target.checked ? document.open : null)}
              />
              {name}
            </label>
            <Due document={document} />
            <span className="num">{t`${amount(Math.abs(document.open))} open`}</span>
            {part === null ? (
              <span />
            ) : (
              <AmountField
                label={t`Settled of ${name}`}
                value={Math.abs(part)}
                onChange={(size) =>
                  settle(document, size === null ? null : Math.sign(document.open) * Math.abs(size))
                }
              />
            )}
          </div>
        );
      })}
      {rest !== null && rest !== 0 && (
        <label>
          <input
            type="checkbox"
            className="form-check-input"
            checked={draft.leavesCredit}
            onChange={({ target }) => onChange({ leavesCredit: target.checked })}
          />
          {t`Keep ${amount(Math.abs(rest))} as credit with ${payeeName(draft.payeeId)}`}
        </label>
      )}
    </fieldset>
  );
}

function Due({ document: { date, dueDate } }: { readonly document: ListedDocument }) {
  const showDate = useShowDate();
  return (
    <span className="quiet">
      {dueDate === null ? showDate(date) : t`${showDate(date)}, due ${showDate(dueDate)}`}
    </span>
  );
}

/**
 * What an entry of the payee may settle, in the currency of its bank account, with what is open before the
 * entry itself: what runs its way first.
 */
function useSettleable(draft: HandDraft): readonly ListedDocument[] {
  const { setup, currency } = useBooks();
  const documents = usePayeeDocuments(canSettle(draft) ? draft.payeeId : null);
  if (draft.kind === 'journal' || draft.kind === 'transfer') return [];
  const direction = handDirection(draft.kind);
  const inCurrency = documents.filter(
    ({ exchange }) => (exchange?.currency ?? setup.books.currency) === currency,
  );
  const own = new Map(draft.own.map(({ documentId, amount }) => [documentId, amount]));
  return inCurrency
    .map((document) => ({ ...document, open: document.open + (own.get(document.id) ?? 0) }))
    .filter(({ open }) => open !== 0)
    .sort(
      (a, b) =>
        direction * (Math.sign(b.open) - Math.sign(a.open)) ||
        ((a.dueDate ?? a.date) < (b.dueDate ?? b.date) ? -1 : 1),
    );
}
