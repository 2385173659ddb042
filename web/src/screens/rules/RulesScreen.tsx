import { t } from '@zubrell/core/words/t';
import { useMemo, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { rulesApi } from '../../api/rules.ts';
import { useBooks } from '../../app/useBooks.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { ImportDialog } from './ImportDialog.tsx';
import { NewRule } from './NewRule.tsx';
import { RuleEditor } from './RuleEditor.tsx';
import { RuleList } from './RuleList.tsx';
import './rules.scss';
import { RulesTabs } from './RulesTabs.tsx';
import { draftOfRule } from './ruleDraft.ts';
import { withTurns } from './ruleShown.ts';
import { Suggestions } from './Suggestions.tsx';

/** The address of a rule that is being written. */
const NEW = 'new';

/** Written rules in their order, and the one that is being looked at, changed or written. */
export function RulesScreen() {
  const { booksId } = useBooks();
  const { ruleId } = useParams();
  const [params] = useSearchParams();
  const { data, error } = rulesApi.useRulesQuery(booksId);
  const { data: turns } = rulesApi.useRuleTurnsQuery(booksId);
  const [importing, setImporting] = useState<{ readonly text: string | null } | null>(null);
  const navigate = useNavigate();
  const search = useRef<HTMLInputElement>(null);
  useHotkeys('/', () => search.current?.focus(), { preventDefault: true });
  const path = `/books/${booksId}/rules`;
  const rules = useMemo(() => withTurns(data?.rules ?? [], turns?.found ?? []), [data, turns]);
  const shown = rules.find(({ id }) => id === ruleId);
  return (
    <main className="rules">
      <aside className="rule-side" aria-label={t`Rules`}>
        <div className="rules-head">
          <h1>{t`Rules`}</h1>
          <RulesTabs current="written" rules={data?.rules.length} habits={turns?.habitCount} />
          <Button variant="plain" className="ms-auto" onClick={() => setImporting({ text: null })}>
            {t`Import`}
          </Button>
          <Link className="btn btn-main" to={`${path}/${NEW}`}>
            {t`Write a rule`}
          </Link>
        </div>
        {error !== undefined && <ErrorNote error={error} />}
        {data ? (
          <RuleList
            rules={rules}
            currentId={ruleId ?? null}
            searchRef={search}
            onCopyElsewhere={(text) => setImporting({ text })}
          />
        ) : (
          error === undefined && <Waiting what={t`the rules`} />
        )}
      </aside>
      {ruleId === NEW ? (
        <NewRule key={params.toString()} params={params} rules={rules} />
      ) : shown ? (
        <RuleEditor key={shown.id} rule={shown} rules={rules} start={draftOfRule(shown)} />
      ) : (
        <Suggestions hasRules={rules.length > 0} />
      )}
      {importing && (
        <ImportDialog
          text={importing.text}
          onClose={() => setImporting(null)}
          onDone={() => {
            setImporting(null);
            navigate(path);
          }}
        />
      )}
    </main>
  );
}
