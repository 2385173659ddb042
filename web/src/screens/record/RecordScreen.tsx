import { type AuditRecord, RecordGroup } from '@zubrell/contract/audit';
import { recordWords } from '@zubrell/core/audit/recordWords';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Link } from 'react-router';
import { auditApi } from '../../api/audit.ts';
import { browserName } from '../../app/browserName.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowMoment } from '../../app/useToday.ts';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { MoreButton } from '../../ui/MoreButton.tsx';
import { Picker } from '../../ui/Picker.tsx';
import { tx } from '../../ui/tx.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { roleNames } from '../settings/roleWords.ts';
import { ChainCheckNote } from './ChainCheckNote.tsx';
import { SaveRecord } from './SaveRecord.tsx';
import './record.scss';

const GROUPS: readonly (readonly [RecordGroup, string])[] = [
  ['signingIn', t`Signing in`],
  ['refusals', t`Refusals`],
  ['people', t`People`],
  ['settings', t`Settings`],
  ['exports', t`Exports`],
];

/** Who got in, was refused, or changed who may do what, for the owners of the books. */
export function RecordScreen() {
  const { booksId } = useBooks();
  const [group, setGroup] = useState<RecordGroup | null>(null);
  const [userId, setUserId] = useState<string | null>(null);
  const wanted = {
    ...(group === null ? {} : { group }),
    ...(userId === null ? {} : { userId }),
  };
  const pages = auditApi.useRecordsInfiniteQuery({
    booksId,
    ...wanted,
  });
  const { data, error } = pages;
  const records = data?.pages.flatMap((page) => page.items) ?? [];
  const moment = useShowMoment();
  const columns: readonly Column<AuditRecord>[] = [
    { id: 'when', head: t`When`, className: 'text-nowrap', cell: ({ at }) => moment(at) },
    {
      id: 'who',
      head: t`Who`,
      className: 'text-nowrap',
      cell: ({ who }) => who ?? <span className="quiet">{t`nobody signed in`}</span>,
    },
    {
      id: 'what',
      head: t`What`,
      cellClass: ({ kind }) => (kind === 'refused' ? 'trouble' : ''),
      cell: (record) => recordWords(record, roleNames),
    },
    {
      id: 'address',
      head: t`Address`,
      cellClass: () => 'quiet',
      cell: ({ address }) => address || '—',
    },
    {
      id: 'browser',
      head: t`Browser`,
      cellClass: () => 'quiet text-nowrap',
      cell: ({ browser }) => (browser ? browserName(browser) : '—'),
    },
  ];
  return (
    <main className="page record">
      <header>
        <h1>{t`Access record`}</h1>
        <SaveRecord wanted={wanted} />
      </header>
      <p className="quiet">
        {tx`Who signed in, was refused, or changed who may do what here. Nothing in it can be changed unseen. What is done to lines is in ${<Link to={`/books/${booksId}/history`}>{t`History`}</Link>}.`}
      </p>
      <ChainCheckNote />
      <div className="history-filter">
        <Picker
          label={t`Kind`}
          value={group}
          all={t`All`}
          choices={GROUPS}
          onChange={(value) => setGroup(RecordGroup.nullable().parse(value))}
        />
        <Picker
          label={t`Who`}
          value={userId}
          all={t`Everybody`}
          choices={(data?.pages[0]?.people ?? []).map(({ id, name }) => [id, name])}
          onChange={setUserId}
        />
      </div>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`the record`} />}
      {data && records.length === 0 && <p className="quiet">{t`No records match.`}</p>}
      {records.length > 0 && (
        <div className="sheet">
          <DataTable rows={records} columns={columns} rowKey={({ key }) => String(key)} />
        </div>
      )}
      <MoreButton pages={pages}>{t`Older records`}</MoreButton>
    </main>
  );
}
