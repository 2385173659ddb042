import type { Entry } from '@zubrell/contract/ledger';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { ledgerApi } from '../../api/ledger.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Attachments } from './Attachments.tsx';

/** The receipts that are kept with an entry; more can be added to one that was made by hand. */
export function EntryAttachments({
  entry: { id, content, attachments },
}: {
  readonly entry: Entry;
}) {
  const { booksId, setup } = useBooks();
  const [addAttachment, { isLoading }] = ledgerApi.useAddEntryAttachmentMutation();
  const { getRootProps, getInputProps, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: async (files) => {
      for (const file of files) {
        const { error } = await addAttachment({ booksId, entryId: id, file });
        if (error) toast.error(`${file.name}: ${shownProblem(error).message}`);
      }
    },
  });
  if (content === null || setup.books.role === 'reviewer')
    return <Attachments attachments={attachments} />;
  return (
    <div {...getRootProps()}>
      <Attachments attachments={attachments}>
        <input {...getInputProps({ 'aria-label': t`Receipt for this entry` })} />
        <Button variant="plain" className="mt-1" disabled={isLoading} onClick={open}>
          {isLoading ? t`Adding …` : t`Add a receipt`}
        </Button>
      </Attachments>
    </div>
  );
}
