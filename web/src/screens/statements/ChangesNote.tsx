import type { Statement, StatementChange } from '@zubrell/contract/statements';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { countLines } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';

const WHAT: Readonly<Record<StatementChange['what'], string>> = {
  came: t`imported`,
  went: t`gone`,
  decided: t`coded differently`,
  open: t`open again`,
};

/** What is not as it was when the statement was agreed. */
export function ChangesNote({ statement }: { readonly statement: Statement }) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  const [isOpen, setIsOpen] = useState(false);
  const { changes, state } = statement;
  if (changes.length === 0) {
    return state === 'reopened' ? (
      <p className="changes quiet">{t`Reopened. Nothing has changed since it was agreed.`}</p>
    ) : null;
  }
  return (
    <div className="changes">
      <p>
        <b className="doubt">{t`Changed since closed: ${countLines(changes.length)}.`}</b>{' '}
        {state === 'agreed' &&
          t`What changed counts on the first open day; the statement stays as agreed.`}{' '}
        <Button variant="link" aria-expanded={isOpen} onClick={() => setIsOpen(!isOpen)}>
          {isOpen ? t`Hide changes` : t`Show changes`}
        </Button>
      </p>
      {isOpen && (
        <ul>
          {changes.map(({ lineId, date, text, amount: minor, what }) => (
            <li key={lineId}>
              {showDate(date)} <span className="mono">{text}</span> {amount(minor, { plus: true })}:{' '}
              {WHAT[what]}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
