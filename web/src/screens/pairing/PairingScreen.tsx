import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useHotkeys } from 'react-hotkeys-hook';
import { useNavigate, useSearchParams } from 'react-router';
import { pairingApi } from '../../api/pairing.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { shownProblem } from '../../app/problem.ts';
import { useBooks } from '../../app/useBooks.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { PairingTable } from './PairingTable.tsx';
import './pairing.scss';

/** What lines could be in the books already: all of it in one table, with what differs marked. */
export function PairingScreen() {
  const { booksId, currencyOf } = useBooks();
  const [params, setParams] = useSearchParams();
  const navigate = useNavigate();
  const lineIds = params.getAll('line');
  const [search, setSearch] = useState('');
  const { data, error } = pairingApi.usePairingQuery(
    { booksId, lineId: lineIds, search },
    { skip: lineIds.length === 0, refetchOnMountOrArgChange: true },
  );
  const back = () => void navigate(-1);
  // What stands here and is ticked stays where only another search failed.
  const isNowhere = lineIds.length === 0 || (error !== undefined && !data);
  useHotkeys('esc', back, { enabled: isNowhere });
  if (isNowhere) {
    const isGone = error === undefined || shownProblem(error).code === 'LINE_UNKNOWN';
    return (
      <main className="page">
        {error !== undefined && <ErrorNote error={error} />}
        {isGone && <p>{t`Someone has already decided this line, or it isn’t in these books.`}</p>}
        <Button variant="plain" onClick={back}>
          {t`Back to the Desk`}
          <kbd>{t`Esc`}</kbd>
        </Button>
      </main>
    );
  }
  if (!data) return <Waiting what={t`what fits`} />;
  const known = data.lines.map(({ id }) => id);
  const [first] = data.lines;
  return (
    <InCurrency currency={first ? currencyOf(first.bankAccountId) : null}>
      <PairingTable
        key={lineIds.join()}
        view={data}
        search={search}
        onSearch={setSearch}
        onLines={(ids) =>
          setParams(new URLSearchParams(ids.map((id) => ['line', id])), { replace: true })
        }
        lineIds={known}
        onBack={back}
        error={error}
      />
    </InCurrency>
  );
}
