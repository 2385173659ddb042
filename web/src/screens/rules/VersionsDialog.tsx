import type { ListedRule } from '@zubrell/contract/rules';
import { ruleWords } from '@zubrell/core/propose/rule/ruleWords';
import { t } from '@zubrell/core/words/t';
import { Button, Modal } from 'react-bootstrap';
import { rulesApi } from '../../api/rules.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { useRuleNames } from './useRuleNames.ts';

/** What a rule said over time; any of it can hold again. */
export function VersionsDialog({
  rule,
  onClose,
}: {
  readonly rule: ListedRule;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const showDate = useShowDate();
  const names = useRuleNames();
  const { told } = useUndo();
  const { data, error } = rulesApi.useRuleVersionsQuery({ booksId, ruleId: rule.id });
  const [changeRule, { isLoading }] = rulesApi.useChangeRuleMutation();
  return (
    <Dialog title={t`Earlier versions of ${rule.name}`} isWide onClose={onClose}>
      <Modal.Body>
        {error !== undefined && <ErrorNote error={error} />}
        {!data && error === undefined && <Waiting what={t`its history`} />}
        <ul className="versions">
          {data?.versions.map(({ step, at, who, words, rule: then }, place) => (
            <li key={step}>
              <div>
                {words}{' '}
                <span className="quiet">
                  {who}, {showDate(at.slice(0, 10))}
                </span>
              </div>
              {then && (
                <div className="quiet">
                  {then.isOn ? '' : t`off · `}
                  {ruleWords(then.body, names)}
                </div>
              )}
              {then && place > 0 && (
                <Button
                  variant="plain"
                  disabled={isLoading}
                  onClick={async () => {
                    const body = { ...then.body, after: { kind: 'hold' } as const };
                    const { name, isOn } = then;
                    const wanted = {
                      booksId,
                      ruleId: rule.id,
                      name,
                      isOn,
                      body,
                      seenStep: rule.lastStep,
                    };
                    if (told(await changeRule(wanted))) onClose();
                  }}
                >
                  {t`Restore version`}
                </Button>
              )}
            </li>
          ))}
        </ul>
      </Modal.Body>
    </Dialog>
  );
}
