import type { BackgroundJob } from '@zubrell/contract/jobs';
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
  keepBatch: 'Read file',
  fetchFeed: 'Fetch feed',
  renewProposals: 'Renew proposals',
  saveHabits: 'Save habits',
  summariseBooks: 'Update the list of books',
};
const STATES: Readonly<Record<BackgroundJob['state'], string>> = {
  waiting: 'waits',
  running: 'is being done',
  failed: 'failed',
};

/** What is done in the background for these books, for their owner. */
export function BackgroundPanel() {
  const { booksId, setup } = useBooks();
  const isOwner = setup.books.role === 'owner';
  const { data, error } = jobsApi.useJobsQuery(booksId, { pollingInterval: AGAIN, skip: !isOwner });
  if (!isOwner) return null;
  return (
    <section className="sheet">
      <h2>Work in the background</h2>
      <p className="quiet">
        Files are read, feeds fetched and proposals renewed one after the other. Work that a lost
        connection or a restart interrupts continues automatically.
      </p>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what="the work in the background" />}
      {data?.jobs.length === 0 && (
        <p className="mb-0">Nothing is waiting and nothing has failed.</p>
      )}
      {data && data.jobs.length > 0 && (
        <Table className="mb-0">
          <thead>
            <tr>
              <th>Work</th>
              <th>State</th>
              <th>Since</th>
              <th>Tries</th>
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
    ...(attempts > 0 ? [['Try again', tryAgain] as const] : []),
    ['Give up', giveUp] as const,
  ];

  async function act(work: typeof tryAgain | typeof giveUp): Promise<void> {
    const { error } = await work({ booksId, jobId });
    if (error) toast.error(shownProblem(error).message);
  }

  return (
    <tr>
      <td>{what}</td>
      <td className={state === 'failed' ? 'trouble' : ''}>
        {againAt === null ? STATES[state] : `is tried again at ${moment(againAt)}`}
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
