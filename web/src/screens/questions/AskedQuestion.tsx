import type { QuestionToMe } from '@zubrell/contract/questions';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { questionsApi } from '../../api/questions.ts';
import { formatAmount, formatLongDate } from '../../app/formats.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooksId } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { AddAttachment } from './AddAttachment.tsx';

/** One question with the payments it is about, and room for the answer. */
export function AskedQuestion({
  question,
  currency,
}: {
  readonly question: QuestionToMe;
  readonly currency: string;
}) {
  const booksId = useBooksId();
  const showDate = useShowDate();
  const [answer, { isLoading }] = questionsApi.useAnswerQuestionMutation();
  const [words, setWords] = useState('');
  const { id, askedBy, askedAt, lines, answers } = question;

  async function send(): Promise<void> {
    const { error } = await answer({ booksId, questionId: id, words });
    if (error) {
      toast.error(shownProblem(error).message);
      return;
    }
    setWords('');
    toast(t`Answer sent to ${askedBy}`);
  }

  return (
    <article className="sheet">
      <p className="quiet">{t`${askedBy} asks, ${showDate(askedAt.slice(0, 10))}`}</p>
      <h3>{question.words}</h3>
      <ul className="asked-lines">
        {lines.map((line) => (
          <li key={line.id}>
            <span className="num">
              {formatAmount(line.amount, line.currency, { plus: true })}
              {line.currency !== currency && ` ${line.currency}`}
            </span>
            <span>
              <span className="mono">{line.description}</span>
              {line.reference && <span className="quiet"> {line.reference}</span>}
              <br />
              <span className="quiet">{formatLongDate(line.date)}</span>
              {line.attachments.map((attachment) => (
                <a
                  key={attachment.id}
                  href={`/api/books/${booksId}/attachments/${attachment.id}`}
                  target="_blank"
                  rel="noreferrer"
                >
                  {attachment.fileName}
                </a>
              ))}
            </span>
            <AddAttachment lineId={line.id} name={line.description} />
          </li>
        ))}
      </ul>
      {answers.map((each) => (
        <p key={each.id} className="answer">
          {each.words}{' '}
          <span className="quiet">
            {each.who}, {showDate(each.at.slice(0, 10))}
          </span>
        </p>
      ))}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <textarea
          className="form-control"
          rows={2}
          maxLength={2_000}
          aria-label={t`Your answer to: ${question.words}`}
          placeholder={answers.length === 0 ? t`Your answer` : t`Something to add`}
          value={words}
          onChange={({ target }) => setWords(target.value)}
        />
        <Button type="submit" variant="main" disabled={isLoading || words.trim() === ''}>
          {t`Send answer`}
        </Button>
      </form>
    </article>
  );
}
