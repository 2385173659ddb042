import type { BackgroundJob } from '@zubrell/contract/jobs';
import { t } from '@zubrell/core/words/t';
import { Button, Table } from 'react-bootstrap';
import { jobsApi } from '../../api/jobs.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowMoment } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';

/** How often it is looked again while the panel is open, in milliseconds. */
const AGAIN = 5_000;

const TASKS: Readonly<Record<BackgroundJob['task'], string>> = {
  keepBatch: t`Read file`,
  fetchFeed: t`Fetch feed`,
  renewProposals: t`Renew proposals`,
  saveHabits: t`Save habits`,
  summariseBooks: t`Update the list of books`,
};
const STATES: Readonly<Record<BackgroundJob['state'], string>> = {
  waiting: t`waits`,
  running: t`is being done`,
  failed: t`failed`,
};

/** What is done in the background for these books, for their owner. */
export function BackgroundPanel() {
  const { booksId, setup } = useBooks();
  const isOwner = setup.books.role === 'owner';
  const { data, error } = jobsApi.useJobsQuery(booksId, { pollingInterval: AGAIN, skip: !isOwner });
  if (!isOwner) return null;
  return (
    <section className="sheet">
      <h2>{t`Work in the background`}</h2>
      <p className="quiet">
        {t`Files are read, feeds fetched and proposals renewed one after the other. Work that a lost connection or a restart interrupts continues automatically.`}
      </p>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`the work in the background`} />}
      {data?.jobs.length === 0 && (
        <p className="mb-0">{t`Nothing is waiting and nothing has failed.`}</p>
      )}
      {data && data.jobs.length > 0 && (
        <Table className="mb-0">
          <thead>
            <tr>
              <th>{t`Work`}</th>
              <th>{t`State`}</th>
              <th>{t`Since`}</th>
              <th>{t`Tries`}</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {data.jobs.map((job) => (
              <JobRow key={job.id} job={job} />
            ))}
          </tbody>
        </Table>
      )}
    </section>
  );
}

function JobRow({ job }: { readonly job: BackgroundJob }) {
  const { booksId } = useBooks();
  const moment = useShowMoment();
  const [tryAgain, again] = jobsApi.useTryJobAgainMutation();
  const [giveUp, givingUp] = jobsApi.useGiveJobUpMutation();
  const isBusy = again.isLoading || givingUp.isLoading;
  const { id: jobId, task, state, about, since, againAt, attempts } = job;
  const what = about === null ? TASKS[task] : `${TASKS[task]} ${about}`;

  const actions = [
    ...(attempts > 0 ? [[t`Try again`, tryAgain] as const] : []),
    [t`Give up`, giveUp] as const,
  ];

  async function act(work: typeof tryAgain | typeof giveUp): Promise<void> {
    const { error } = await work({ booksId, jobId });
    if (error) toast.error(shownProblem(error).message);
  }

  return (
    <tr>
      <td>{what}</td>
      <td className={state === 'failed' ? 'trouble' : ''}>
        {againAt === null ? STATES[state] : t`is tried again at ${moment(againAt)}`}
      </td>
      <td className="num">{moment(since)}</td>
      <td className="num">{attempts}</td>
      <td>
        {state !== 'running' && (
          <span className="d-flex gap-3">
            {actions.map(([words, work]) => (
              <Button
                key={words}
                variant="link"
                className="p-0"
                disabled={isBusy}
                onClick={() => void act(work)}
              >
                {words}
              </Button>
            ))}
          </span>
        )}
      </td>
    </tr>
  );
}
