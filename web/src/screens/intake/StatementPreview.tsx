import { tagsOf } from '@zubrell/contract/touched';
import type { BankAccountId } from '@zubrell/core/ids';
import { isSameAccountNumber } from '@zubrell/core/intake/isSameAccountNumber';
import { t } from '@zubrell/core/words/t';
import { type ReactNode, useState } from 'react';
import { Button } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { api } from '../../api/api.ts';
import { counted, countLines } from '../../app/formats.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { useAppDispatch } from '../../app/store.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import type { FileSummary, StatementSummary } from '../../workers/fileReading.ts';
import { ColumnStrip } from './ColumnStrip.tsx';
import { GoesTo } from './GoesTo.tsx';
import { PreviewFactsPanel } from './PreviewFactsPanel.tsx';
import { PreviewTable } from './PreviewTable.tsx';
import { useComparison } from './useComparison.ts';
import type { FileInHand } from './useFileReading.ts';
import { useKeepFile } from './useKeepFile.ts';

/** What must be said yes to before a statement is kept. */
export interface Consents {
  /** Import the rest without the records that can't be read. */
  readonly refused: boolean;
  /** The file is of another account number. */
  readonly number: boolean;
  /** The balances don't fit. */
  readonly balance: boolean;
  /** Lines are dated after today. */
  readonly dates: boolean;
}

/** One statement of a file as it will come in, and keeping it. */
export function StatementPreview({
  source,
  file,
  heading,
  layout,
  summary,
  statement,
  index,
  chosen,
  onChooseAccount,
  hasMore,
  onKept,
  onLeave,
}: {
  readonly source: File;
  readonly file: FileInHand;
  readonly heading: ReactNode;
  readonly layout: ReactNode;
  readonly summary: FileSummary;
  readonly statement: StatementSummary;
  readonly index: number;
  /** The bank account that was chosen for it; undefined while nobody has chosen, null where it is taken back. */
  readonly chosen: BankAccountId | null | undefined;
  readonly onChooseAccount: (id: BankAccountId | null) => void;
  /** Other statements of the file wait. */
  readonly hasMore: boolean;
  readonly onKept: () => void;
  readonly onLeave: () => void;
}) {
  const { booksId, setup } = useBooks();
  const recognised = setup.bankAccounts.find(
    (bank) =>
      statement.account !== null &&
      bank.number !== null &&
      isSameAccountNumber(statement.account, bank.number),
  );
  const byLayout = setup.bankAccounts.find((bank) => bank.id === file.kept?.bankAccountId);
  const known = recognised ?? byLayout ?? null;
  const chosenId = chosen === undefined ? (known?.id ?? null) : chosen;
  const [consents, setConsents] = useState<Consents>({
    refused: false,
    number: false,
    balance: false,
    dates: false,
  });
  const today = useToday();
  const { state, keep } = useKeepFile(source);
  const { tell } = useUndo();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const bankAccount = setup.bankAccounts.find((bank) => bank.id === chosenId) ?? null;
  const comparison = useComparison(file.reading, index, statement, bankAccount);
  const refused = summary.problems.filter(({ severity }) => severity !== 'notice');
  const isOtherCurrency =
    statement.currency !== null &&
    bankAccount !== null &&
    statement.currency !== bankAccount.currency;
  const isOtherNumber = !isSameAccountNumber(statement.account, bankAccount?.number ?? null);
  const hasGap = statement.gap !== null && statement.gap !== 0 && refused.length === 0;
  const isOtherBalance = bankAccount !== null && (hasGap || comparison?.mismatch != null);
  const isAhead = (statement.lines.last ?? '') > today;
  const newCount = comparison ? comparison.counts.new + comparison.counts.doubtful : 0;
  const isBusy = state.kind === 'busy';
  const canKeep =
    bankAccount !== null &&
    comparison !== null &&
    statement.lines.count > 0 &&
    !isBusy &&
    !isOtherCurrency &&
    (refused.length === 0 || consents.refused) &&
    (!isOtherNumber || consents.number) &&
    (!isOtherBalance || consents.balance) &&
    summary.openDate === null &&
    (!isAhead || consents.dates);

  async function keepIt(): Promise<void> {
    if (bankAccount === null) return;
    const kept = await keep({
      statementIndex: index,
      bankAccountId: bankAccount.id,
      acceptRefused: consents.refused,
      confirmNumber: consents.number,
      confirmBalance: consents.balance,
      confirmDates: consents.dates,
      withOpening: true,
      choices: file.choices,
    });
    if (kept === null) return;
    dispatch(api.util.invalidateTags(tagsOf(['batch', 'bankAccount', 'entry'])));
    if (kept.newCount === 0) {
      toast(t`${source.name} has no new lines: all of them were imported before.`);
    } else {
      const lines = counted(kept.newCount, 'new line', 'new lines');
      tell(t`Imported ${lines} from ${source.name}`, kept.step);
    }
    onKept();
    if (hasMore) return;
    if (kept.newCount === 0) onLeave();
    else navigate(`/books/${booksId}/desk?account=${bankAccount.id}&lane=blank`);
  }

  function hint(): string {
    if (bankAccount === null) return t`Choose the bank account this file belongs to.`;
    if (isOtherCurrency) return t`The bank account is in another currency than the file.`;
    if (statement.lines.count === 0)
      return t`No lines can be read this way. Change how the file is read, on the left.`;
    if (refused.length > 0 && !consents.refused) {
      return t`Some records can’t be read. Look at the list on the left.`;
    }
    if (summary.openDate !== null) return t`Choose whether the day or the month comes first.`;
    if (isAhead && !consents.dates)
      return t`Some lines are dated after today. Confirm them on the left.`;
    if (isOtherBalance && !consents.balance) return t`The balances don’t add up. Look at the left.`;
    if (comparison && comparison.counts.doubtful > 0) {
      return t`Doubtful lines are imported with a mark, so that nothing real is lost.`;
    }
    return newCount === 0
      ? t`Every line of this file is already imported.`
      : t`You can undo the whole import afterwards.`;
  }

  return (
    <InCurrency currency={statement.currency ?? bankAccount?.currency ?? null}>
      <main className="preview">
        <aside className="preview-side">
          {heading}
          <GoesTo
            statement={statement}
            value={bankAccount}
            how={
              chosenId === null || chosenId !== known?.id
                ? null
                : recognised
                  ? t`Recognised by the number in the file.`
                  : t`Files with these columns went there before.`
            }
            onChange={onChooseAccount}
          />
          {layout}
          <PreviewFactsPanel
            summary={summary}
            statement={statement}
            comparison={comparison}
            bankAccount={bankAccount}
            refused={refused}
            isOtherCurrency={isOtherCurrency}
            isOtherNumber={isOtherNumber}
            hasGap={hasGap}
            isAhead={isAhead}
            onDates={(dates) => file.choose({ dates })}
            consents={consents}
            onConsent={(changed) => setConsents({ ...consents, ...changed })}
          />
        </aside>
        <PreviewTable
          reading={file.reading}
          index={index}
          comparison={comparison}
          columns={
            summary.layout && (
              <ColumnStrip layout={summary.layout} onChoose={(roles) => file.choose({ roles })} />
            )
          }
        />
        <footer className="preview-foot">
          <span className={state.kind === 'failed' ? 'trouble' : 'quiet'} role="status">
            {state.kind === 'busy' && state.words}
            {state.kind === 'failed' && state.message}
            {state.kind === 'idle' && hint()}
          </span>
          <Button variant="plain" className="ms-auto" onClick={onLeave}>
            {t`Cancel`}
          </Button>
          <Button variant="main" disabled={!canKeep} onClick={() => void keepIt()}>
            {newCount === 0 ? t`Mark as imported` : t`Import ${countLines(newCount)}`}
          </Button>
        </footer>
      </main>
    </InCurrency>
  );
}
