import type { ClosingAction, MonthClosing } from '@zubrell/contract/closing';
import { formatMonth, lastDayOf } from '@zubrell/core/dates/calendarDate';
import { hasLeave } from '@zubrell/core/people/leaves';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { closingApi } from '../../api/closing.ts';
import { formatCount, formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowMoment } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { tx } from '../../ui/tx.tsx';
import { openItems, openItemsWords } from './openItems.ts';

/** Who prepared and reviewed a month, the note for the record, and closing it. */
export function SignOff({ closing }: { readonly closing: MonthClosing }) {
  const { booksId, setup } = useBooks();
  const showMoment = useShowMoment();
  const { told } = useUndo();
  const [send, { isLoading }] = closingApi.useCloseMonthMutation();
  const [note, setNote] = useState(closing.note);
  const { month, state, prepared, reviewed, closed, seenStep, lineCount, reviewedCount } = closing;
  const { leaves, role } = setup.books;
  const isClosed = state === 'closed';
  const open = openItems(closing);
  const mayClose = hasLeave(leaves, 'close', role);
  const name = formatMonth(month);

  async function act(action: ClosingAction['action']): Promise<void> {
    told(await send({ booksId, month, action, note: note.trim(), seenStep }));
  }

  return (
    <>
      <aside className="sign-off" aria-label={t`Sign-off`}>
        <h2>{t`Sign-off`}</h2>
        <section>
          <b>{prepared ? t`Prepared by ${prepared.by}` : t`Not prepared yet`}</b>
          <p>
            {prepared
              ? t`handed to the reviewer on ${showMoment(prepared.at)}`
              : t`The bookkeeper hands the month to the reviewer.`}
          </p>
          {state === 'sentBack' && (
            <p className="doubt">{t`Sent back. The note says what is missing.`}</p>
          )}
        </section>
        <section>
          <b>{reviewed ? t`Reviewed by ${reviewed.by}` : t`Not reviewed yet`}</b>
          <p>
            {reviewed && t`on ${showMoment(reviewed.at)}, `}
            {tx`${formatCount(reviewedCount)} of ${formatCount(lineCount)} lines looked at, chosen at random and by size. ${<Link to="?sample=open">{t`Review a sample`}</Link>}`}
          </p>
        </section>
        {closed && (
          <section>
            <b>{t`Closed by ${closed.by}`}</b>
            <p>{t`on ${showMoment(closed.at)}`}</p>
          </section>
        )}
        <Form.Group controlId="closing-note">
          <Form.Label>{t`Note for the record`}</Form.Label>
          <Form.Control
            as="textarea"
            rows={3}
            maxLength={2_000}
            placeholder={t`Open items you accept, and why`}
            value={note}
            onChange={({ target }) => setNote(target.value)}
          />
        </Form.Group>
        <section className="does">
          <b>{t`What closing does`}</b>
          <p>
            {t`Nothing dated up to ${formatLongDate(lastDayOf(month))} can change. A late line or a correction counts on the first open day and is marked as late. Reopening is recorded.`}
          </p>
        </section>
      </aside>
      <footer className="close-foot">
        <span className="quiet">{isClosed ? t`${name} is closed.` : openItemsWords(open)}</span>
        <span className="ways">
          <Button variant="plain" onClick={() => window.print()}>
            {t`Print checklist`}
          </Button>
          {isClosed ? (
            <Button
              variant="plain"
              disabled={isLoading || note.trim() === '' || !hasLeave(leaves, 'reopen', role)}
              title={note.trim() === '' ? t`Say why in the note` : undefined}
              onClick={() => void act('reopen')}
            >
              {t`Reopen ${name}`}
            </Button>
          ) : (
            <>
              {(state === 'prepared' || state === 'reviewed') && (
                <Button
                  variant="plain"
                  disabled={isLoading || note.trim() === ''}
                  onClick={() => void act('sendBack')}
                >
                  {tx`Send back to ${prepared?.by.split(' ')[0]}`}
                </Button>
              )}
              {state !== 'prepared' && state !== 'reviewed' && role !== 'reviewer' && (
                <Button variant="plain" disabled={isLoading} onClick={() => void act('prepare')}>
                  {t`Hand to reviewer`}
                </Button>
              )}
              {state === 'prepared' && (
                <Button variant="plain" disabled={isLoading} onClick={() => void act('review')}>
                  {t`Mark as reviewed`}
                </Button>
              )}
              <Button
                variant="main"
                disabled={isLoading || !mayClose || (open > 0 && note.trim() === '')}
                onClick={() => void act('close')}
              >
                {t`Close ${name}`}
              </Button>
            </>
          )}
        </span>
      </footer>
    </>
  );
}
