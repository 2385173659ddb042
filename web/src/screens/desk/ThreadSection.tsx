import type { Question } from '@zubrell/contract/questions';
import type { LineId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { questionsApi } from '../../api/questions.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Moon } from '../../ui/Moon.tsx';
import { tx } from '../../ui/tx.tsx';

/** What was asked about a line and answered, and the attachments kept with it. */
export function ThreadSection({ lineId }: { readonly lineId: LineId }) {
  const { booksId } = useBooks();
  const { data } = questionsApi.useLineThreadQuery({ booksId, lineId });
  const [addAttachment, { isLoading }] = questionsApi.useAddAttachmentMutation();
  const { getRootProps, getInputProps, open, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: async (files) => {
      for (const file of files) {
        const { error } = await addAttachment({ booksId, lineId, file });
        if (error) toast.error(`${file.name}: ${shownProblem(error).message}`);
      }
    },
  });
  return (
    <section {...getRootProps({ className: isDragActive ? 'over' : '' })}>
      {data?.questions.map((question) => (
        <QuestionThread key={question.id} question={question} />
      ))}
      <h2 className="small-heading">{t`Attachments`}</h2>
      <ul className="attachments">
        {data?.attachments.map(({ id, fileName, size }) => (
          <li key={id}>
            <a href={`/api/books/${booksId}/attachments/${id}`} target="_blank" rel="noreferrer">
              {fileName}
            </a>{' '}
            <span className="quiet">{t`${Math.ceil(size / 1024)} KB`}</span>
          </li>
        ))}
      </ul>
      <input {...getInputProps({ 'aria-label': t`Attachment of this line` })} />
      <Button variant="plain" disabled={isLoading} onClick={open}>
        {isLoading ? t`Adding …` : t`Add attachment`}
      </Button>
    </section>
  );
}

function QuestionThread({ question }: { readonly question: Question }) {
  const { booksId, setup } = useBooks();
  const showDate = useShowDate();
  const [typed, setTyped] = useState('');
  const [answer, { isLoading }] = questionsApi.useAnswerQuestionMutation();
  const { askedOf, askedBy, askedAt, words, answers } = question;

  async function send(): Promise<void> {
    const { error } = await answer({ booksId, questionId: question.id, words: typed });
    if (error) toast.error(shownProblem(error).message);
    else setTyped('');
  }

  return (
    <div className="thread">
      <h2 className="small-heading">
        {tx`${<Moon kind="asked" />} ${askedBy} asked ${askedOf}, ${showDate(askedAt.slice(0, 10))}`}
      </h2>
      <p>{words}</p>
      {answers.map(({ id, words: said, who, at }) => (
        <p key={id} className="answer">
          {said} <span className="quiet">{t`written by ${who}, ${showDate(at.slice(0, 10))}`}</span>
        </p>
      ))}
      {setup.books.role !== 'reviewer' && (
        <form
          className="d-flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void send();
          }}
        >
          <input
            className="form-control form-control-sm"
            aria-label={t`Answer of ${askedOf}`}
            placeholder={t`The answer, in their words`}
            value={typed}
            onChange={({ target }) => setTyped(target.value)}
          />
          <Button type="submit" variant="plain" disabled={isLoading || typed.trim() === ''}>
            {t`Record answer`}
          </Button>
        </form>
      )}
    </div>
  );
}
