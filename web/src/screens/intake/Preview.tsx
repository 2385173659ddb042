import type { BankFile } from '@zubrell/core/formats/bankFile';
import { bookedOnly } from '@zubrell/core/intake/statementBalances';
import { useState } from 'react';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { Segments } from '../../ui/Segments.tsx';
import type { FileReading } from '../../workers/readInWorker.ts';
import { ProblemList } from './ProblemList.tsx';
import { StatementPreview } from './StatementPreview.tsx';

const FORMATS: Readonly<Record<BankFile['format'], string>> = {
  ofx1: 'OFX 1',
  ofx2: 'OFX 2',
  camt: 'camt',
  mt940: 'MT940',
  qif: 'QIF',
  csv: 'CSV',
  xlsx: 'Spreadsheet',
};

/** A file as it will come in, statement by statement. Nothing of it is kept yet. */
export function Preview({
  source,
  reading,
  onLeave,
}: {
  readonly source: File;
  readonly reading: FileReading;
  readonly onLeave: () => void;
}) {
  const [index, setIndex] = useState(0);
  const { file, milliseconds } = reading;
  const stated = file.statements[index];
  const statement = stated && bookedOnly(stated);
  const pendingCount = (stated?.lines.length ?? 0) - (statement?.lines.length ?? 0);
  const rows = file.statements.reduce((sum, { lines }) => sum + lines.length, 0);
  const heading = (
    <div>
      <h1 className="file-name">{source.name}</h1>
      <p className="quiet m-0">
        {FORMATS[file.format]}, {rows} {rows === 1 ? 'line' : 'lines'}, read in{' '}
        {(milliseconds / 1000).toFixed(1)} s. Nothing kept yet.
        {pendingCount > 0 && ` ${pendingCount} only announced, left until they are booked.`}
      </p>
      {file.statements.length > 1 && (
        <div className="mt-2">
          <Segments
            label="Statement"
            choices={file.statements.map((each, at) => [
              String(at),
              each.account ?? `Account ${at + 1}`,
            ])}
            value={String(index)}
            onChange={(at) => setIndex(Number(at))}
          />
        </div>
      )}
    </div>
  );
  if (!statement || statement.lines.length === 0) {
    return (
      <main className="page intake">
        {heading}
        <EmptyState title="There is no line to keep in this file">
          <ProblemList problems={file.problems} />
          <button type="button" className="btn btn-main mt-3" onClick={onLeave}>
            Choose another
          </button>
        </EmptyState>
      </main>
    );
  }
  return (
    <StatementPreview
      key={index}
      source={source}
      heading={heading}
      statement={statement}
      statementIndex={index}
      problems={file.problems}
      onLeave={onLeave}
    />
  );
}
