import type { Statement, StatementChange } from '@zubrell/contract/statements';
import { counted } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';

const WHAT: Readonly<Record<StatementChange['what'], string>> = {
  came: 'imported',
  went: 'gone',
  decided: 'coded differently',
  open: 'open again',
};

/** What is not as it was when the statement was agreed. */
export function ChangesNote({ statement }: { readonly statement: Statement }) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  const [isOpen, setIsOpen] = useState(false);
  const { changes, state } = statement;
  if (changes.length === 0) {
    return state === 'reopened' ? (
      <p className="changes quiet">Reopened. Nothing has changed since it was agreed.</p>
    ) : null;
  }
  return (
    <div className="changes">
      <p>
        <b className="doubt">Changed since closed: {counted(changes.length, 'line', 'lines')}.</b>{' '}
        {state === 'agreed' &&
          'What changed counts on the first open day; the statement stays as agreed.'}{' '}
        <Button variant="link" aria-expanded={isOpen} onClick={() => setIsOpen(!isOpen)}>
          {isOpen ? 'Hide changes' : 'Show changes'}
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
