import type { Step } from '@zubrell/contract/desk';
import type { LineId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { stepsApi } from '../../api/steps.ts';
import { countLines, formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Amount } from '../../ui/Amount.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { useTicks } from '../../ui/useTicks.ts';
import { Waiting } from '../../ui/Waiting.tsx';
import { decidedPath } from '../desk/deskScope.ts';

/** The lines that a step decided about; those that are ticked can be undone by themselves. */
export function StepLinesRow({ step }: { readonly step: Step }) {
  const { booksId, bankAccountName, currencyOf } = useBooks();
  const { data, error } = stepsApi.useStepLinesQuery({ booksId, stepNo: step.no });
  const [undoLines, { isLoading }] = stepsApi.useUndoLinesMutation();
  const { told } = useUndo();
  const showDate = useShowDate();
  const [ticked, toggle, setTicked] = useTicks<LineId>();
  const standing = data?.lines.filter(({ isStanding }) => isStanding) ?? [];

  async function undo(): Promise<void> {
    const answer = await undoLines({ booksId, stepNo: step.no, lineIds: [...ticked] });
    if (told(answer)) setTicked([]);
  }

  if (error) return <ErrorNote error={error} />;
  if (!data) return <Waiting what={t`the lines of this step`} />;
  if (data.count === 0) return <p className="quiet m-0">{t`This step didn’t decide any lines.`}</p>;
  return (
    <section className="step-lines" aria-label={t`Lines of step ${step.no}`}>
      <table className="ticked-lines">
        <tbody>
          {data.lines.map(({ id, date, amount, description, bankAccountId, isStanding }) => (
            <tr key={id} className={isStanding ? '' : 'quiet'}>
              <td>
                <input
                  type="checkbox"
                  className="form-check-input"
                  aria-label={t`Tick ${description}`}
                  disabled={!isStanding || step.isUndone}
                  checked={ticked.has(id)}
                  onChange={() => toggle(id)}
                />
              </td>
              <td className="text-nowrap">{showDate(date)}</td>
              <td className="mono">{description}</td>
              <td>{bankAccountName(bankAccountId)}</td>
              <td className="num">
                <Amount minor={amount} currency={currencyOf(bankAccountId)} />
              </td>
              <td className="quiet">{!isStanding && t`decided again since`}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {data.count > data.lines.length && (
        <p className="quiet">{t`The newest ${formatCount(data.lines.length)} of ${formatCount(data.count)} lines.`}</p>
      )}
      {standing.length > 0 && !step.isUndone && (
        <div className="d-flex gap-2 align-items-center">
          <Button
            variant="plain"
            size="sm"
            disabled={ticked.size === 0 || isLoading}
            onClick={() => void undo()}
          >
            {t`Undo ${countLines(ticked.size)}`}
          </Button>
          <Button
            variant="link"
            size="sm"
            onClick={() =>
              setTicked(ticked.size === standing.length ? [] : standing.map(({ id }) => id))
            }
          >
            {ticked.size === standing.length ? t`Untick all` : t`Tick all`}
          </Button>
          <Link className="ms-auto" to={`/books/${booksId}/${decidedPath({ step: step.no })}`}>
            {t`Open in Decided`}
          </Link>
        </div>
      )}
    </section>
  );
}
