import type { LineId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useRef } from 'react';
import { Button } from 'react-bootstrap';
import { questionsApi } from '../../api/questions.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooksId } from '../../app/useBooks.ts';

/** Adds an invoice or receipt to a payment; a phone offers its camera. */
export function AddAttachment({
  lineId,
  name,
}: {
  readonly lineId: LineId;
  readonly name: string;
}) {
  const booksId = useBooksId();
  const [addAttachment, { isLoading }] = questionsApi.useAddAttachmentMutation();
  const field = useRef<HTMLInputElement>(null);

  async function add(files: readonly File[]): Promise<void> {
    for (const file of files) {
      const { error } = await addAttachment({ booksId, lineId, file });
      if (error) toast.error(`${file.name}: ${shownProblem(error).message}`);
      else toast(t`${file.name} attached`);
    }
  }

  return (
    <>
      <input
        ref={field}
        type="file"
        hidden
        multiple
        accept="application/pdf,image/png,image/jpeg"
        aria-label={t`Attachment for ${name}`}
        onChange={({ target }) => {
          void add([...(target.files ?? [])]);
          target.value = '';
        }}
      />
      <Button variant="plain" disabled={isLoading} onClick={() => field.current?.click()}>
        {isLoading ? t`Adding …` : t`Add attachment`}
      </Button>
    </>
  );
}
