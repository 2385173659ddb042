import type { SinceVisit as Since } from '@zubrell/contract/board';
import { t } from '@zubrell/core/words/t';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { boardApi } from '../../api/board.ts';
import { counted, countLines } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowMoment } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { tx } from '../../ui/tx.tsx';

/** So many people are named. */
const NAMED = 3;

/** What others did since the reader was here last. */
export function SinceVisit() {
  const { booksId } = useBooks();
  const { data, error } = boardApi.useVisitQuery(booksId);
  const showMoment = useShowMoment();
  const title =
    data?.at == null ? t`In the last seven days` : t`Since your last visit, ${showMoment(data.at)}`;
  return (
    <section className="sheet board-card" aria-labelledby="since-visit">
      <h2 id="since-visit">{title}</h2>
      {error !== undefined && <ErrorNote error={error} />}
      {data && <Happened since={data} />}
    </section>
  );
}

function Happened({ since: { came, people, answers } }: { readonly since: Since }) {
  const { booksId } = useBooks();
  const rows: { readonly key: string; readonly row: ReactNode }[] = [];
  if (came.lines > 0) {
    const from = counted(came.batches, 'file or feed', 'files or feeds');
    rows.push({
      key: 'came',
      row: (
        <>
          {tx`${<Link to={`/books/${booksId}/intake`}>{t`${countLines(came.lines)} imported`}</Link>}, from ${from}`}
        </>
      ),
    });
  }
  if (answers > 0) {
    rows.push({
      key: 'answers',
      row: (
        <Link to={`/books/${booksId}/desk?lane=check`}>
          {counted(answers, 'answer received', 'answers received')}
        </Link>
      ),
    });
  }
  for (const { userId, name, steps, lines, last } of people.slice(0, NAMED)) {
    const done = counted(steps, 'step', 'steps');
    rows.push({
      key: userId,
      row: (
        <>
          <b>{name}</b>: {done}
          {lines > 0 && t`, ${countLines(lines)} decided`}
          {steps === 1 ? ': ' : `. ${t`The last:`} `}
          <Link to={`/books/${booksId}/history`}>{last}</Link>
        </>
      ),
    });
  }
  if (people.length > NAMED) {
    const more = people.length - NAMED;
    rows.push({
      key: 'more',
      row: (
        <Link to={`/books/${booksId}/history`}>
          {t`${counted(more, 'more person', 'more people')} in History`}
        </Link>
      ),
    });
  }
  if (rows.length === 0) return <p className="quiet m-0">{t`Nobody else has changed anything.`}</p>;
  return (
    <ul>
      {rows.map(({ key, row }) => (
        <li key={key}>{row}</li>
      ))}
    </ul>
  );
}
