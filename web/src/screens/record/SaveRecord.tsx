import type { RecordsWanted } from '@zubrell/contract/audit';
import { recordWords } from '@zubrell/core/audit/recordWords';
import { guardFormula } from '@zubrell/core/formats/table/formulaGuard';
import { csvText } from '@zubrell/core/text/csvText';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { auditApi } from '../../api/audit.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useExport } from '../../app/useExport.ts';
import { roleNames } from '../settings/roleWords.ts';

/** Saves what is on record, as it is filtered, as CSV. */
export function SaveRecord({ wanted }: { readonly wanted: RecordsWanted }) {
  const { booksId, setup } = useBooks();
  const [fetchPage, { isFetching }] = auditApi.useLazyRecordPageQuery();
  const save = useExport();

  async function saveAll(): Promise<void> {
    const rows: (readonly string[])[] = [];
    let cursor: string | null | undefined;
    do {
      const { data, error } = await fetchPage({
        booksId,
        ...wanted,
        ...(cursor ? { cursor } : {}),
      });
      if (!data) {
        toast.error(shownProblem(error).message);
        return;
      }
      rows.push(
        ...data.items.map((record) => [
          record.at,
          record.who ?? '',
          recordWords(record, roleNames),
          record.address ?? '',
          record.browser ?? '',
        ]),
      );
      cursor = data.next;
    } while (cursor !== null);
    const heads = [t`When`, t`Who`, t`What`, t`Address`, t`Browser`];
    // Browsers say of themselves what they like.
    const text = csvText([heads, ...rows.map((row) => row.map(guardFormula))]);
    await save('records', text, t`access record of ${setup.books.name}.csv`);
  }

  return (
    <Button
      variant="plain"
      className="ms-auto"
      disabled={isFetching}
      onClick={() => void saveAll()}
    >
      {t`Export CSV`}
    </Button>
  );
}
