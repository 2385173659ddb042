import { t } from '@zubrell/core/words/t';
import { useEffect, useRef } from 'react';
import { Link, Navigate, useSearchParams } from 'react-router';
import { feedsApi } from '../../../api/feeds.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { ErrorNote } from '../../../ui/ErrorNote.tsx';
import { Waiting } from '../../../ui/Waiting.tsx';

/** Where a bank sends its customer back to: takes the consent and goes on to Intake. */
export function ConsentScreen() {
  const { booksId } = useBooks();
  const [params] = useSearchParams();
  const [finish, { data, error }] = feedsApi.useFinishConsentMutation();
  const isSent = useRef(false);
  const [state, code] = [params.get('state'), params.get('code')];

  useEffect(() => {
    // The bank's answer counts once.
    if (isSent.current || state === null) return;
    isSent.current = true;
    void finish({ booksId, state, code });
  }, [booksId, state, code, finish]);

  if (data || state === null) return <Navigate to={`/books/${booksId}/intake`} replace />;
  if (!error) return <Waiting what={t`the accounts from the bank`} />;
  return (
    <main className="page">
      <ErrorNote error={error} />
      <Link className="btn btn-main" to={`/books/${booksId}/intake`}>
        {t`Back to Intake`}
      </Link>
    </main>
  );
}
