import type { ListedRule, MiscodedLines } from '@zubrell/contract/rules';
import type { LineId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Modal } from 'react-bootstrap';
import { rulesApi } from '../../api/rules.ts';
import { counted, countLines, formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Amount } from '../../ui/Amount.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { useTicks } from '../../ui/useTicks.ts';
import { useRulesStep } from './useRulesStep.ts';

type Miscoded = MiscodedLines['lines'][number];

/** What a rule coded before it was changed, listed to be put right; each line can be left as it is. */
export function CorrectRuleDialog({
  rule,
  found: { count, lines },
  onClose,
}: {
  readonly rule: Pick<ListedRule, 'id' | 'name'>;
  readonly found: MiscodedLines;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const seenStep = useRulesStep();
  const [correct, { isLoading }] = rulesApi.useCorrectRuleMutation();
  const [left, toggle] = useTicks<LineId>();
  const wanted = lines.filter(({ id }) => !left.has(id));

  async function confirm(): Promise<void> {
    const lineIds = wanted.map(({ id }) => id);
    told(await correct({ booksId, ruleId: rule.id, lineIds, seenStep }));
    onClose();
  }

  return (
    <Dialog title={t`Correct what “${rule.name}” coded`} isWide onClose={onClose}>
      <Modal.Body className="rules-dialog">
        <p>
          {t`${counted(count, 'line was', 'lines were')} coded by this rule as it was before, and would be coded differently now. Untick lines that are right.`}
          {count > lines.length && ` ${t`The newest ${formatCount(lines.length)} are listed.`}`}
        </p>
        <table className="ticked-lines">
          <tbody>
            {lines.map((line) => (
              <MiscodedRow
                key={line.id}
                line={line}
                isWanted={!left.has(line.id)}
                onToggle={() => toggle(line.id)}
              />
            ))}
          </tbody>
        </table>
      </Modal.Body>
      <DialogFoot
        leave={t`Leave lines as they are`}
        isOff={wanted.length === 0 || isLoading}
        onLeave={onClose}
        onConfirm={confirm}
      >
        {t`Correct ${countLines(wanted.length)}`}
      </DialogFoot>
    </Dialog>
  );
}

function MiscodedRow({
  line: { date, amount, description, bankAccountId, accountIds, fix },
  isWanted,
  onToggle,
}: {
  readonly line: Miscoded;
  readonly isWanted: boolean;
  readonly onToggle: () => void;
}) {
  const { accountName, currencyOf } = useBooks();
  const showDate = useShowDate();
  return (
    <tr>
      <td>
        <input
          type="checkbox"
          className="form-check-input"
          aria-label={t`Correct ${description}`}
          checked={isWanted}
          onChange={onToggle}
        />
      </td>
      <td className="text-nowrap">{showDate(date)}</td>
      <td className="mono">{description}</td>
      <td>{[...new Set(accountIds)].map(accountName).join(', ')}</td>
      <td>
        {fix === 'recode' ? t`code as the rule says now` : t`reopen: the rule no longer applies`}
      </td>
      <td className="num">
        <Amount minor={amount} currency={currencyOf(bankAccountId)} />
      </td>
    </tr>
  );
}
