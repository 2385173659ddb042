import type { ListedRule } from '@zubrell/contract/rules';
import { t } from '@zubrell/core/words/t';
import { Modal } from 'react-bootstrap';
import { rulesApi } from '../../api/rules.ts';
import { countLines, formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Dialog } from '../../ui/Dialog.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { wordsToMark } from './ruleDraft.ts';
import { TriedTable } from './TriedTable.tsx';

/** All lines that a rule coded or proposes for. */
export function RuleLinesDialog({
  rule,
  onClose,
}: {
  readonly rule: ListedRule;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { data, error } = rulesApi.useRuleLinesQuery({ booksId, ruleId: rule.id });
  return (
    <Dialog title={t`Lines of ${rule.name}`} isWide onClose={onClose}>
      <Modal.Body className="rules-dialog">
        {error !== undefined && <ErrorNote error={error} />}
        {data ? (
          <>
            <p className="quiet">
              {countLines(data.count)}
              {data.count > data.lines.length &&
                t`, of which the newest ${formatCount(data.lines.length)}`}
              {rule.postedAtOnce > 0 && t`; ${rule.postedAtOnce} were posted at once`}
            </p>
            <TriedTable
              lines={data.lines}
              words={wordsToMark(rule.body.takes.conditions)}
              numberOf={(id) => (id === rule.id ? rule.number : null)}
              empty={t`This rule hasn’t coded any lines yet.`}
            />
          </>
        ) : (
          error === undefined && <Waiting what={t`its lines`} />
        )}
      </Modal.Body>
    </Dialog>
  );
}
