import type { DeskLine, Scope, SweepSummary } from '@zubrell/contract/desk';
import { t } from '@zubrell/core/words/t';
import { useEffect, useRef, useState } from 'react';
import { Modal, Table } from 'react-bootstrap';
import { linesApi } from '../../api/lines.ts';
import { counted, countLines, formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { tx } from '../../ui/tx.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { SweepLine } from './SweepLine.tsx';

/** Shows what a sweep of the Ready lines would post, lets lines be taken out, and does it. */
export function SweepDialog({
  scope,
  onClose,
}: {
  readonly scope: Scope;
  readonly onClose: () => void;
}) {
  const { booksId, amount } = useBooks();
  const { told } = useUndo();
  // What was shown is what is swept: later changes are left out by the server.
  const { currentData: summary, error } = linesApi.useSweepSummaryQuery(
    { booksId, ...scope },
    { refetchOnMountOrArgChange: true },
  );
  const [without, setWithout] = useState<readonly string[]>([]);
  const postButton = useRef<HTMLButtonElement>(null);
  const [sweep, { isLoading }] = linesApi.useSweepLinesMutation();
  const count = (summary?.count ?? 0) - without.length;

  // The summary is on the screen by then: Enter posts what it says.
  const isShown = summary !== undefined;
  useEffect(() => {
    if (isShown) postButton.current?.focus();
  }, [isShown]);

  async function confirm(): Promise<void> {
    if (!summary) return;
    const answer = await sweep({
      booksId,
      scope,
      without: [...without],
      seenStep: summary.seenStep,
      seen: summary.seen,
    });
    told(answer);
    if (answer.data) onClose();
  }

  return (
    <Dialog title={t`Post ready lines`} isWide onClose={onClose}>
      <Modal.Body className="sweep">
        {error !== undefined && <ErrorNote error={error} />}
        {!summary && error === undefined && <Waiting what={t`the sum`} />}
        {summary && (
          <>
            <SweepSum summary={summary} />
            <SweepLines
              title={pairsTitle(summary.pairs, amount)}
              lines={summary.pairs.lines}
              without={without}
              onChange={setWithout}
            />
            <SweepTransfers transfers={summary.transfers} without={without} onChange={setWithout} />
            <SweepLines
              title={t`The largest`}
              lines={summary.largest}
              without={without}
              onChange={setWithout}
            />
            <SweepLines
              title={t`A sample of the rest`}
              lines={summary.look}
              without={without}
              onChange={setWithout}
            />
            <SweepAccounts summary={summary} />
            <p className="quiet mb-0">{leftWords(summary)}</p>
          </>
        )}
      </Modal.Body>
      <DialogFoot
        isOff={isLoading || count <= 0}
        onLeave={onClose}
        onConfirm={confirm}
        confirmRef={postButton}
      >
        {t`Post ${countLines(count)}`}
      </DialogFoot>
    </Dialog>
  );
}

/** @example '3 that are in the books already, +1,840.00' */
function pairsTitle(
  { count, total, lines }: SweepSummary['pairs'],
  amount: (minor: number, options: { readonly plus: true }) => string,
): string {
  const more = count > lines.length ? t`, the largest ${lines.length} of them` : '';
  const sum = amount(total, { plus: true });
  return count === 1
    ? t`1 that is in the books already and is paired, ${sum}${more}`
    : t`${formatCount(count)} that are in the books already and are paired, ${sum}${more}`;
}

function SweepSum({ summary }: { readonly summary: SweepSummary }) {
  const { payeeName, amount } = useBooks();
  const { count, paidIn, paidOut, newPayeeIds, transfers } = summary;
  return (
    <>
      <p>
        {tx`${<b>{countLines(count)}</b>}: ${amount(paidOut)} out, ${amount(paidIn, { plus: true })} in`}
        {transfers.count > 0 && t`, ${amount(-transfers.moved)} moved between your own accounts`}
        {'. '}
        {t`You can undo the whole sweep in one step.`}
      </p>
      {newPayeeIds.length > 0 && (
        <p className="doubt">
          {t`Nothing was posted to ${newPayeeIds.map((id) => payeeName(id)).join(', ')} before.`}
        </p>
      )}
    </>
  );
}

/** Moves between own accounts: both halves in one row, in or out together. */
function SweepTransfers({
  transfers: { count, moved, halves },
  without,
  onChange,
}: {
  readonly transfers: SweepSummary['transfers'];
  readonly without: readonly string[];
  readonly onChange: (without: readonly string[]) => void;
}) {
  const { amount, setup } = useBooks();
  const showDate = useShowDate();
  const nameOf = ({ bankAccountId }: DeskLine) =>
    setup.bankAccounts.find(({ id }) => id === bankAccountId)?.name ?? '';
  if (count === 0) return null;
  const more = count > halves.length ? t`, the largest ${halves.length} of them` : '';
  const moves = counted(count, 'transfer', 'transfers');
  return (
    <fieldset>
      <legend className="small-heading">
        {t`${moves} between your own accounts, ${amount(-moved)}${more}`}
      </legend>
      {halves.map(({ out, in: into }) => {
        const ids = [out.id, into.id];
        const isIn = !ids.some((id) => without.includes(id));
        return (
          <label key={out.id} className={`sweep-line ${isIn ? '' : 'quiet'}`}>
            <input
              type="checkbox"
              className="form-check-input"
              checked={isIn}
              onChange={({ target }) =>
                onChange(
                  target.checked ? without.filter((id) => !ids.includes(id)) : [...without, ...ids],
                )
              }
            />
            <span>{showDate(out.date)}</span>
            <span className="mono">{out.description}</span>
            <span>{`${nameOf(out)} → ${nameOf(into)}`}</span>
            <span className="num">{amount(-out.amount)}</span>
          </label>
        );
      })}
    </fieldset>
  );
}

function SweepAccounts({ summary: { accounts } }: { readonly summary: SweepSummary }) {
  const { accountName, amount } = useBooks();
  return (
    <Table size="sm">
      <thead>
        <tr>
          <th>{t`Account`}</th>
          <th className="num">{t`Lines`}</th>
          <th className="num">{t`Sum`}</th>
        </tr>
      </thead>
      <tbody>
        {accounts.map(({ accountId, count, total }) => (
          <tr key={accountId}>
            <td>{accountName(accountId)}</td>
            <td className="num">{formatCount(count)}</td>
            <td className="num">{amount(total, { plus: true })}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function SweepLines({
  title,
  lines,
  without,
  onChange,
}: {
  readonly title: string;
  readonly lines: readonly DeskLine[];
  readonly without: readonly string[];
  readonly onChange: (without: readonly string[]) => void;
}) {
  if (lines.length === 0) return null;
  return (
    <fieldset>
      <legend className="small-heading">{title}</legend>
      {lines.map((line) => (
        <SweepLine
          key={line.id}
          line={line}
          isIn={!without.includes(line.id)}
          onChange={(isIn) =>
            onChange(isIn ? without.filter((id) => id !== line.id) : [...without, line.id])
          }
        />
      ))}
    </fieldset>
  );
}

/** What the sweep leaves, in words. */
function leftWords({ left: { check, blank, asked, closed } }: SweepSummary): string {
  const parts = [
    check > 0 && t`${check} with a doubt`,
    blank > 0 && t`${blank} without a proposal`,
    asked > 0 && t`${asked} waiting for an answer`,
    closed > 0 && t`${closed} in a closed period`,
  ].filter((part) => part !== false);
  return parts.length === 0
    ? t`Nothing is left after that.`
    : t`Left for you: ${parts.join(', ')}.`;
}
