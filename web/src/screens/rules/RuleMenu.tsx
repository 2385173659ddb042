import type { ListedRule } from '@zubrell/contract/rules';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Dropdown } from 'react-bootstrap';
import { Link, useNavigate } from 'react-router';
import { rulesApi } from '../../api/rules.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { decidedPath } from '../desk/deskScope.ts';
import { RuleLinesDialog } from './RuleLinesDialog.tsx';
import { useRulesStep } from './useRulesStep.ts';
import { VersionsDialog } from './VersionsDialog.tsx';

/** What else can be done with a rule. */
export function RuleMenu({ rule }: { readonly rule: ListedRule }) {
  const { booksId } = useBooks();
  const navigate = useNavigate();
  const { told } = useUndo();
  const [changeRules] = rulesApi.useChangeRulesMutation();
  const [reopen] = rulesApi.useReopenRuleLinesMutation();
  const [shown, setShown] = useState<'lines' | 'versions' | null>(null);
  const path = `/books/${booksId}/rules`;
  const seenStep = useRulesStep();
  const remove = async (): Promise<void> => {
    if (told(await changeRules({ booksId, ruleIds: [rule.id], to: 'deleted' }))) navigate(path);
  };
  return (
    <>
      <Dropdown align="end">
        <Dropdown.Toggle variant="plain" id="rule-menu" aria-label={t`More about this rule`}>
          {t`More`}
        </Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item as="button" type="button" onClick={() => setShown('lines')}>
            {t`Lines this rule coded`}
          </Dropdown.Item>
          <Dropdown.Item as={Link} to={`/books/${booksId}/${decidedPath({ ruleId: rule.id })}`}>
            {t`Correct lines this rule coded`}
          </Dropdown.Item>
          <Dropdown.Item as="button" type="button" onClick={() => setShown('versions')}>
            {t`Earlier versions`}
          </Dropdown.Item>
          {rule.body.takes.direction !== 'either' && rule.body.result.kind === 'code' && (
            <Dropdown.Item
              as="button"
              type="button"
              onClick={() => navigate(`${path}/new?twin=${rule.id}`)}
            >
              {t`Create rule for refunds`}
            </Dropdown.Item>
          )}
          {rule.postedAtOnce > 0 && (
            <Dropdown.Item
              as="button"
              type="button"
              onClick={async () => told(await reopen({ booksId, ruleId: rule.id, seenStep }))}
            >
              {rule.postedAtOnce === 1
                ? t`Reopen the line it posted at once`
                : t`Reopen all ${rule.postedAtOnce} lines it posted at once`}
            </Dropdown.Item>
          )}
          <Dropdown.Item as="button" type="button" onClick={() => void remove()}>
            {t`Delete`}
          </Dropdown.Item>
        </Dropdown.Menu>
      </Dropdown>
      {shown === 'lines' && <RuleLinesDialog rule={rule} onClose={() => setShown(null)} />}
      {shown === 'versions' && <VersionsDialog rule={rule} onClose={() => setShown(null)} />}
    </>
  );
}
