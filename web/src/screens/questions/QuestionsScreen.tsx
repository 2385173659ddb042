import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { questionsApi } from '../../api/questions.ts';
import { UserMenu } from '../../app/UserMenu.tsx';
import { useBooksId } from '../../app/useBooks.ts';
import { useStepEvents } from '../../app/useStepEvents.ts';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { AskedQuestion } from './AskedQuestion.tsx';
import './questions.scss';

/** What somebody is asked about books, to be answered without knowing anything of bookkeeping. */
export function QuestionsScreen() {
  const booksId = useBooksId();
  const { data, error } = questionsApi.useQuestionsToMeQuery(booksId);
  useStepEvents(booksId);
  const open = data?.questions.filter(({ state }) => state === 'open') ?? [];
  const answered = data?.questions.filter(({ state }) => state === 'answered') ?? [];
  return (
    <div className="frame">
      <header className="top-bar">
        <Link to="/" className="word" aria-label={t`Zubrell, all books`}>
          zubrell
        </Link>
        <b>{data?.booksName}</b>
        <div className="right">
          <UserMenu />
        </div>
      </header>
      <main className="page questions">
        <h1>{t`Questions for you`}</h1>
        {error && <ErrorNote error={error} />}
        {!data && !error && <Waiting what={t`your questions`} />}
        {data && open.length === 0 && (
          <EmptyState title={t`No questions for you`}>
            <p>{t`When the bookkeeper has a question about a payment, it appears here.`}</p>
          </EmptyState>
        )}
        {data &&
          open.map((question) => (
            <AskedQuestion key={question.id} question={question} currency={data.currency} />
          ))}
        {data && answered.length > 0 && (
          <>
            <h2>{t`Answered, not settled yet`}</h2>
            {answered.map((question) => (
              <AskedQuestion key={question.id} question={question} currency={data.currency} />
            ))}
          </>
        )}
      </main>
    </div>
  );
}
