import type { BankFile } from '@zubrell/core/formats/bankFile';
import type { BankAccountId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, ProgressBar } from 'react-bootstrap';
import { intakeApi } from '../../api/intake.ts';
import { countLines } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { Segments } from '../../ui/Segments.tsx';
import type { FileSummary } from '../../workers/fileReading.ts';
import { LayoutPanel } from './LayoutPanel.tsx';
import { ProblemList } from './ProblemList.tsx';
import { SaveAs } from './SaveAs.tsx';
import { StatementPreview } from './StatementPreview.tsx';
import { useFileReading } from './useFileReading.ts';

const FORMATS: Readonly<Record<BankFile['format'], string>> = {
  ofx1: 'OFX 1',
  ofx2: 'OFX 2',
  camt: 'camt',
  mt940: 'MT940',
  qif: 'QIF',
  csv: 'CSV',
  xlsx: t`Spreadsheet`,
};

/** A file as it will come in, statement by statement. Nothing of it is kept yet. */
export function Preview({
  source,
  onLeave,
}: {
  readonly source: File;
  readonly onLeave: () => void;
}) {
  const { booksId, setup } = useBooks();
  const { data } = intakeApi.useLayoutsQuery(booksId);
  const file = useFileReading(source, setup.books.currency, data?.layouts ?? null);
  const [index, setIndex] = useState(0);
  const [done, setDone] = useState<ReadonlySet<number>>(new Set());
  // Outlives reading the file anew, as it is each time that how it is read changes.
  const [accounts, setAccounts] = useState<Readonly<Record<number, BankAccountId | null>>>({});
  const { state, reading } = file;

  if (state.kind !== 'read') {
    return (
      <main className="page intake">
        <h1 className="file-name">{source.name}</h1>
        {state.kind === 'failed' ? (
          <EmptyState title={t`Nothing was imported`}>
            <p className="error-note" role="alert">
              {state.message}
            </p>
            {file.goBack && (
              <Button variant="main" className="me-2" onClick={file.goBack}>
                {t`Read as before`}
              </Button>
            )}
            <Button variant={file.goBack ? 'plain' : 'main'} onClick={onLeave}>
              {t`Choose another file`}
            </Button>
          </EmptyState>
        ) : (
          <div className="sheet reading" role="status">
            <p>{t`Reading ${Math.round(state.share * 100)} % …`}</p>
            <ProgressBar now={state.share * 100} aria-label={t`Share read`} />
            <Button variant="plain" className="mt-3" onClick={onLeave}>
              {t`Stop`}
            </Button>
          </div>
        )}
      </main>
    );
  }

  const { summary } = state;
  const statement = summary.statements[index];
  const heading = (
    <div>
      <h1 className="file-name">{source.name}</h1>
      <p className="quiet m-0">{headline(summary)}</p>
      {reading && <SaveAs reading={reading} fileName={source.name} />}
      {summary.statements.length > 1 && (
        <div className="mt-2">
          <Segments
            label={t`Statement`}
            choices={summary.statements.map((each, at) => [
              String(at),
              `${each.account ?? t`Account ${at + 1}`}${done.has(at) ? ' ✓' : ''}`,
            ])}
            value={String(index)}
            onChange={(at) => setIndex(Number(at))}
          />
        </div>
      )}
    </div>
  );
  const layout = summary.layout && (
    <LayoutPanel
      layout={summary.layout}
      encoding={summary.encoding}
      kept={file.kept}
      onChoose={file.choose}
    />
  );
  const hasLines = summary.statements.some(({ lines }) => lines.count > 0);
  if (!statement || (!hasLines && summary.layout === null)) {
    return (
      <main className="page intake">
        {heading}
        <EmptyState title={t`This file has no lines to import`}>
          <ProblemList problems={summary.problems} />
          <Button variant="main" className="mt-3" onClick={onLeave}>
            {t`Choose another file`}
          </Button>
        </EmptyState>
      </main>
    );
  }
  const rest = summary.statements.findIndex(
    ({ lines }, at) => at !== index && !done.has(at) && lines.count > 0,
  );
  return (
    <StatementPreview
      key={index}
      source={source}
      file={file}
      heading={heading}
      layout={layout}
      summary={summary}
      statement={statement}
      index={index}
      chosen={accounts[index]}
      onChooseAccount={(id) => setAccounts({ ...accounts, [index]: id })}
      hasMore={rest >= 0}
      onKept={() => {
        setDone(new Set([...done, index]));
        if (rest >= 0) setIndex(rest);
      }}
      onLeave={onLeave}
    />
  );
}

function headline(summary: FileSummary): string {
  const rows = summary.statements.reduce((sum, { lines }) => sum + lines.count, 0);
  const announced = summary.statements.reduce((sum, each) => sum + each.announcedCount, 0);
  const what = [FORMATS[summary.format], countLines(rows)].join(', ');
  const seconds = (summary.milliseconds / 1000).toFixed(1);
  const read =
    seconds === '0.0'
      ? t`${what}. Nothing imported yet.`
      : t`${what}, read in ${seconds} s. Nothing imported yet.`;
  return announced === 0
    ? read
    : t`${read} ${announced} only announced, left until they are booked.`;
}
