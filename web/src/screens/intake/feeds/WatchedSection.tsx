import type { WatchedFile } from '@zubrell/contract/feeds';
import { t } from '@zubrell/core/words/t';
import { Button, Table } from 'react-bootstrap';
import { feedsApi } from '../../../api/feeds.ts';
import { counted } from '../../../app/formats.ts';
import { shownProblem } from '../../../app/problem.ts';
import { toast } from '../../../app/toast.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { useShowDate, useShowMoment } from '../../../app/useToday.ts';
import { ErrorNote } from '../../../ui/ErrorNote.tsx';

/** How often the list of files is looked at while the folder is watched, in milliseconds. */
const LOOK_EVERY = 10_000;

/** The folder on the server from which files are imported by themselves; nothing where the server watches none. */
export function WatchedSection() {
  const { booksId } = useBooks();
  const showDate = useShowDate();
  const { data, error } = feedsApi.useWatchedFolderQuery(booksId, {
    pollingInterval: LOOK_EVERY,
    skipPollingIfUnfocused: true,
  });
  const [watch, { isLoading }] = feedsApi.useWatchFolderMutation();
  if (error && !data) return <ErrorNote error={error} />;
  if (!data || data.folder === null) return null;
  const { folder, isOn, by, since, trouble, files } = data;

  async function turn(): Promise<void> {
    const { error: refused } = await watch({ booksId, isOn: !isOn });
    if (refused) toast.error(shownProblem(refused).message);
  }

  return (
    <section className="mt-4" aria-label={t`Watched folder`}>
      <header className="section-head">
        <h2>{t`Watched folder`}</h2>
        <Button variant="plain" disabled={isLoading} onClick={() => void turn()}>
          {isOn ? t`Stop watching` : t`Watch folder`}
        </Button>
      </header>
      <p className="quiet">
        {isOn
          ? t`Files that another program puts into this folder on the server are imported automatically.`
          : t`Another program can put bank files into a folder on the server. Once the folder is watched, they are imported automatically, each into the bank account with its number.`}
        <code className="d-block">{folder}</code>
        {isOn && by && since && (
          <span className="d-block">
            {t`Turned on by ${by} on ${showDate(since.slice(0, 10))}. Files are imported in their name.`}
          </span>
        )}
      </p>
      {trouble && <p className="trouble">{trouble}</p>}
      {isOn && files.length === 0 && (
        <p className="quiet">
          {t`No files received yet. OFX, camt and MT940 files say which bank account they are for.`}
        </p>
      )}
      {files.length > 0 && (
        <div className="sheet">
          <Table>
            <thead>
              <tr>
                <th>{t`File`}</th>
                <th>{t`Received`}</th>
                <th>{t`Result`}</th>
              </tr>
            </thead>
            <tbody>
              {files.map((file) => (
                <FileRow key={file.id} file={file} />
              ))}
            </tbody>
          </Table>
        </div>
      )}
    </section>
  );
}

function FileRow({ file }: { readonly file: WatchedFile }) {
  const showMoment = useShowMoment();
  return (
    <tr>
      <td>{file.fileName}</td>
      <td>{showMoment(file.at)}</td>
      <td>
        {file.state === 'refused' ? (
          <span className="trouble">{file.message}</span>
        ) : (
          resultOf(file)
        )}
      </td>
    </tr>
  );
}

function resultOf({ state, newCount }: WatchedFile): string {
  if (state === 'reading') return t`Being imported …`;
  if (newCount === null || newCount === 0) return t`No new lines`;
  return counted(newCount, 'new line', 'new lines');
}
