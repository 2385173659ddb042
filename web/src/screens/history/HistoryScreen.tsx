import { type Step, StepGroup } from '@zubrell/contract/desk';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Table } from 'react-bootstrap';
import { stepsApi } from '../../api/steps.ts';
import { stepWords } from '../../app/formats.ts';
import { useBooksId } from '../../app/useBooks.ts';
import { useLater } from '../../app/useLater.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { MoreButton } from '../../ui/MoreButton.tsx';
import { Picker } from '../../ui/Picker.tsx';
import { tx } from '../../ui/tx.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import './history.scss';
import { StepLinesRow } from './StepLinesRow.tsx';

const GROUPS: readonly (readonly [StepGroup, string])[] = [
  ['posting', t`Posting and pairing`],
  ['ledger', t`Entries and documents`],
  ['keptOut', t`Excluding and deleting`],
  ['intake', t`Imports`],
  ['asking', t`Questions`],
  ['making', t`Payees and accounts`],
  ['turns', t`Undo and redo`],
];

/** Every step ever taken in these books, each with a way back. */
export function HistoryScreen() {
  const booksId = useBooksId();
  const [group, setGroup] = useState<StepGroup | null>(null);
  const [userId, setUserId] = useState<string | null>(null);
  const [typed, setTyped] = useState('');
  const search = useLater(typed.trim());
  const pages = stepsApi.useStepsInfiniteQuery({
    booksId,
    ...(group === null ? {} : { group }),
    ...(userId === null ? {} : { userId }),
    ...(search === '' ? {} : { search }),
  });
  const { data, error } = pages;
  const isAll = group === null && userId === null && search === '';
  const steps = data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <main className="page">
      <h1>{t`History`}</h1>
      <div className="history-filter">
        <Picker
          label={t`Kind`}
          value={group}
          all={t`All`}
          choices={GROUPS}
          onChange={(wanted) => setGroup(StepGroup.nullable().parse(wanted))}
        />
        <Picker
          label={t`Who`}
          value={userId}
          all={t`Everybody`}
          choices={(data?.pages[0]?.people ?? []).map(({ id, name }) => [id, name])}
          onChange={setUserId}
        />
        <input
          type="search"
          className="form-control"
          aria-label={t`Search the history`}
          placeholder={t`Search steps`}
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
      </div>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`the history`} />}
      {data && steps.length === 0 && !isAll && <p className="quiet">{t`No steps match.`}</p>}
      {data && steps.length === 0 && isAll && (
        <EmptyState title={t`No steps yet`}>
          <p>{t`Every file imported and every line posted is listed here, and can be undone.`}</p>
        </EmptyState>
      )}
      {steps.length > 0 && (
        <div className="sheet">
          <Table className="steps-table">
            <thead>
              <tr>
                <th className="num">{t`No`}</th>
                <th>{t`When`}</th>
                <th>{t`Who`}</th>
                <th>{t`What`}</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {steps.map((step) => (
                <StepRow key={step.no} step={step} />
              ))}
            </tbody>
          </Table>
        </div>
      )}
      <MoreButton pages={pages}>{t`Older steps`}</MoreButton>
    </main>
  );
}

function StepRow({ step }: { readonly step: Step }) {
  const showDate = useShowDate();
  const { undo, redo } = useUndo();
  const [isOpen, setIsOpen] = useState(false);
  const isTurn = step.undoes !== null;
  const words = stepWords(step);
  const row = (
    <tr className={step.isUndone || isTurn ? 'quiet' : ''}>
      <td className="num quiet">{step.no}</td>
      <td className="text-nowrap">
        {showDate(step.at.slice(0, 10))} {step.at.slice(11, 16)}
      </td>
      <td className="text-nowrap">{step.who}</td>
      <td>
        {step.isUndone ? <s>{words}</s> : words}
        {isTurn && <span className="quiet"> {tx`(step ${step.undoes})`}</span>}
        {step.hasLines && (
          <Button
            variant="link"
            size="sm"
            className="show-lines"
            aria-expanded={isOpen}
            aria-label={
              isOpen ? t`Hide lines of step ${step.no}` : t`Show lines of step ${step.no}`
            }
            onClick={() => setIsOpen(!isOpen)}
          >
            {isOpen ? t`Hide lines` : t`Show lines`}
          </Button>
        )}
      </td>
      <td className="num">
        {!isTurn && (
          <Button
            variant="plain"
            size="sm"
            aria-label={`${step.isUndone ? t`Redo` : t`Undo`}: ${words}`}
            onClick={() => void (step.isUndone ? redo(step.no) : undo(step.no))}
          >
            {step.isUndone ? t`Redo` : t`Undo`}
          </Button>
        )}
      </td>
    </tr>
  );
  if (!isOpen) return row;
  return (
    <>
      {row}
      <tr>
        <td />
        <td colSpan={4}>
          <StepLinesRow step={step} />
        </td>
      </tr>
    </>
  );
}
