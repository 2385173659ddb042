import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { useNavigate } from 'react-router';
import { handoverApi } from '../../api/handover.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';

/** Makes new books of an archive that was handed over, and goes to them. */
export function ReadArchive() {
  const [readArchive, { isLoading, error }] = handoverApi.useReadArchiveMutation();
  const navigate = useNavigate();
  const { getRootProps, getInputProps, open, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    onDrop: async ([file]) => {
      if (!file) return;
      const answer = await readArchive({ file });
      if (answer.data) navigate(`/books/${answer.data.id}/board`);
    },
  });
  return (
    <section {...getRootProps({ className: `read-archive ${isDragActive ? 'over' : ''}` })}>
      <h3 className="small-heading">{t`From an archive`}</h3>
      <p className="quiet">
        {t`An archive brings its books with balances, open documents, open lines and every decision.`}
      </p>
      <input {...getInputProps({ 'aria-label': t`Archive` })} />
      <Button variant="plain" disabled={isLoading} onClick={open}>
        {isLoading ? t`Reading the archive …` : t`Read an archive`}
      </Button>
      {error && <ErrorNote error={error} />}
    </section>
  );
}
