import type { PairingView } from '@zubrell/contract/pairing';
import type { LineId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Amount } from '../../ui/Amount.tsx';
import { tx } from '../../ui/tx.tsx';
import { AnotherLine } from './AnotherLine.tsx';

/** The lines that are to be paired, ways to more of them, and the search for what they could be. */
export function PairedLines({
  view,
  search,
  onSearch,
  onLines,
  onBack,
}: {
  readonly view: PairingView;
  readonly search: string;
  readonly onSearch: (search: string) => void;
  readonly onLines: (lineIds: readonly LineId[]) => void;
  readonly onBack: () => void;
}) {
  const { bankAccountName } = useBooks();
  const [isAdding, setIsAdding] = useState(false);
  const ids = view.lines.map(({ id }) => id);
  return (
    <header className="paired-lines">
      <Button variant="link" className="back" onClick={onBack}>
        {tx`← Desk ${<kbd>{t`Esc`}</kbd>}`}
      </Button>
      <ul>
        {view.lines.map((line) => (
          <li key={line.id}>
            <span className="sum">
              <Amount minor={line.amount} />
            </span>
            <span className="wording-box mono" title={line.reference ?? undefined}>
              {line.description}
            </span>
            <span>
              <small>{bankAccountName(line.bankAccountId)}</small>
              {formatLongDate(line.date)}
            </span>
            {ids.length > 1 && (
              <Button variant="plain" onClick={() => onLines(ids.filter((id) => id !== line.id))}>
                {t`Leave out`}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <div className="more">
        <Button variant="plain" onClick={() => setIsAdding(true)}>
          {t`+ another line`}
        </Button>
        <SearchField search={search} onSearch={onSearch} />
      </div>
      {isAdding && (
        <AnotherLine
          view={view}
          onClose={() => setIsAdding(false)}
          onAdd={(id) => onLines([...ids, id])}
        />
      )}
    </header>
  );
}

/** So long after the last key the search begins. */
const PAUSE = 250;

function SearchField({
  search,
  onSearch,
}: {
  readonly search: string;
  readonly onSearch: (search: string) => void;
}) {
  const [typed, setTyped] = useState(search);
  useEffect(() => {
    const timer = setTimeout(() => onSearch(typed.trim()), PAUSE);
    return () => clearTimeout(timer);
  }, [typed, onSearch]);
  return (
    <input
      id="pairing-search"
      type="search"
      className="form-control"
      aria-label={t`Look further`}
      placeholder={t`Text, amount, 600..700, date`}
      value={typed}
      onChange={({ target }) => setTyped(target.value)}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        event.currentTarget.blur();
      }}
    />
  );
}
