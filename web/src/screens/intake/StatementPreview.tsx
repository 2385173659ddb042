import type { BankStatement, Problem } from '@zubrell/core/formats/bankFile';
import { isSameAccountNumber } from '@zubrell/core/intake/isSameAccountNumber';
import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { api } from '../../app/api.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { GoesTo } from './GoesTo.tsx';
import { PreviewFactsPanel } from './PreviewFactsPanel.tsx';
import { PreviewTable } from './PreviewTable.tsx';
import { useKeepFile } from './useKeepFile.ts';
import { usePreviewFacts } from './usePreviewFacts.ts';

/** One statement of a file as it will come in, and keeping it. */
export function StatementPreview({
  source,
  heading,
  statement,
  statementIndex,
  problems,
  onLeave,
}: {
  readonly source: File;
  readonly heading: ReactNode;
  readonly statement: BankStatement;
  readonly statementIndex: number;
  readonly problems: readonly Problem[];
  readonly onLeave: () => void;
}) {
  const { booksId, setup } = useBooks();
  const recognised = setup.bankAccounts.find(
    (bank) =>
      statement.account !== null &&
      bank.number !== null &&
      isSameAccountNumber(statement.account, bank.number),
  );
  const [chosenId, setChosenId] = useState<string | null>(recognised?.id ?? null);
  const [isAccepted, setIsAccepted] = useState(false);
  const [isConfirmed, setIsConfirmed] = useState(false);
  const { state, keep } = useKeepFile();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const bankAccount = setup.bankAccounts.find((bank) => bank.id === chosenId) ?? null;
  const facts = usePreviewFacts(statement, problems, bankAccount);
  const newCount = statement.lines.length - facts.hereCount;
  const isBusy = state.kind === 'busy';
  const canKeep =
    bankAccount !== null &&
    !isBusy &&
    !facts.isOtherCurrency &&
    (facts.refused.length === 0 || isAccepted) &&
    (!facts.isOtherNumber || isConfirmed);

  async function keepIt(): Promise<void> {
    if (bankAccount === null) return;
    const kept = await keep(source, {
      statementIndex,
      bankAccountId: bankAccount.id,
      acceptRefused: isAccepted,
      confirmNumber: isConfirmed,
      withOpening: true,
    });
    if (kept === null) return;
    dispatch(api.util.invalidateTags(['Books', 'Batches']));
    if (kept.newCount === 0) {
      toast(`${source.name} brought nothing new: all its lines were here already.`);
      onLeave();
      return;
    }
    toast(`Kept ${kept.newCount} new ${kept.newCount === 1 ? 'line' : 'lines'} of ${source.name}`);
    navigate(`/books/${booksId}/desk?account=${bankAccount.id}&lane=blank`);
  }

  return (
    <main className="preview">
      <aside className="preview-side">
        {heading}
        <GoesTo
          statement={statement}
          value={bankAccount}
          isRecognised={recognised !== undefined && recognised.id === chosenId}
          onChange={setChosenId}
        />
        <PreviewFactsPanel
          statement={statement}
          facts={facts}
          problems={problems}
          isAccepted={isAccepted}
          onAccept={setIsAccepted}
          isConfirmed={isConfirmed}
          onConfirm={setIsConfirmed}
          bankAccount={bankAccount}
        />
      </aside>
      <PreviewTable statement={statement} states={facts.states} problems={facts.refused} />
      <footer className="preview-foot">
        <span className={state.kind === 'failed' ? 'trouble' : 'quiet'} role="status">
          {state.kind === 'busy' && state.words}
          {state.kind === 'failed' && state.message}
          {state.kind === 'idle' && hint()}
        </span>
        <button type="button" className="btn btn-plain ms-auto" onClick={onLeave}>
          Leave it
        </button>
        <button
          type="button"
          className="btn btn-main"
          disabled={!canKeep}
          onClick={() => void keepIt()}
        >
          {newCount === 0
            ? 'Note it as seen'
            : `Keep ${newCount} ${newCount === 1 ? 'line' : 'lines'}`}
        </button>
      </footer>
    </main>
  );

  function hint(): string {
    if (bankAccount === null) return 'Say which bank account this file belongs to.';
    if (facts.refused.length > 0 && !isAccepted) return 'Some records can’t be read: see the left.';
    return newCount === 0
      ? 'Every line of this file is here already.'
      : 'Everything that comes in can be taken back in History.';
  }
}
