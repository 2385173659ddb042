import type { RuleTried, TriedLine } from '@zubrell/contract/rules';
import type { RuleId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useMemo, useState } from 'react';
import { Button } from 'react-bootstrap';
import { rulesApi } from '../../api/rules.ts';
import { formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useLater } from '../../app/useLater.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { bodyToTry, type RuleDraft, wordsToMark } from './ruleDraft.ts';
import { missedNames } from './ruleShown.ts';
import { TriedTable } from './TriedTable.tsx';

type Shown = 'takes' | 'same' | 'otherwise' | 'open' | 'missed';

const TILES = [
  ['takes', t`lines it matches`],
  ['same', t`you coded the same`],
  ['otherwise', t`you coded differently`],
  ['open', t`still open`],
] as const;

/** So soon after a key the rule is tried, in milliseconds. */
const PAUSE = 120;

function isShown(line: TriedLine, shown: Shown): boolean {
  if (shown === 'same') return line.isSame === true;
  if (shown === 'otherwise') return line.isSame === false;
  return shown === 'takes' || line.state === 'open';
}

/** What a rule that is being written would do to every line in the books. */
export function TryOut({
  draft,
  ruleId,
  numberOf,
}: {
  readonly draft: RuleDraft;
  readonly ruleId: RuleId | null;
  readonly numberOf: (ruleId: RuleId) => number | null;
}) {
  const { booksId } = useBooks();
  const body = useLater(
    useMemo(() => bodyToTry(draft), [draft]),
    PAUSE,
  );
  const { data, error } = rulesApi.useTryRuleQuery({ booksId, ruleId, body });
  const [shown, setShown] = useState<Shown>('takes');
  const words = useMemo(() => wordsToMark(draft.takes.conditions), [draft.takes.conditions]);
  if (error !== undefined) return <ErrorNote error={error} />;
  const missed = data?.nearMisses.reduce((sum, { count }) => sum + count, 0) ?? 0;
  const lines =
    shown === 'missed'
      ? (data?.missedLines ?? [])
      : (data?.lines ?? []).filter((line) => isShown(line, shown));
  return (
    <section className="try-out" aria-label={t`What the rule would do`}>
      <h2>
        {data === undefined
          ? t`Trying the rule on every line …`
          : t`Tried on ${triedOn(data)} as you type`}
      </h2>
      <div className="tiles">
        {TILES.map(([kind, text]) => (
          <button
            type="button"
            key={kind}
            className={
              kind === 'otherwise' && data && data.otherwise > 0 ? 'tile doubtful' : 'tile'
            }
            aria-pressed={shown === kind}
            onClick={() => setShown(kind)}
          >
            <b>{data ? formatCount(data[kind]) : '…'}</b>
            <span>{text}</span>
          </button>
        ))}
      </div>
      <ul className="said">
        {data?.problem && <li className="doubt">{data.problem}</li>}
        {data?.warnings.map(({ word, kind, lines: count }) => (
          <li key={word} className="doubt">
            {kind === 'short'
              ? t`“${word.toLowerCase()}” is a short word: it is in ${formatCount(count)} lines. Add another condition.`
              : t`“${word.toLowerCase()}” is a common word: it is in ${formatCount(count)} lines. Add another condition.`}
          </li>
        ))}
        {data && data.earlier > 0 && (
          <li>
            {data.earlier === data.takes
              ? t`All of them go to an earlier rule.`
              : t`${data.earlier} of them go to an earlier rule.`}
          </li>
        )}
        {missed > 0 && (
          <li>
            <Button
              variant="link"
              className="p-0"
              aria-pressed={shown === 'missed'}
              onClick={() => setShown(shown === 'missed' ? 'takes' : 'missed')}
            >
              {data?.nearMisses
                .map(
                  ({ missed: kind, count }) =>
                    t`${formatCount(count)} would fit but for ${missedNames[kind]}`,
                )
                .join(', ')}
            </Button>
          </li>
        )}
      </ul>
      <TriedTable
        lines={lines}
        words={words}
        numberOf={numberOf}
        empty={
          data === undefined || data.problem !== null || data.takes > 0 || shown === 'missed'
            ? ''
            : t`No lines in these books match yet.`
        }
      />
    </section>
  );
}

function triedOn({ lineCount, isAll }: Pick<RuleTried, 'lineCount' | 'isAll'>): string {
  if (lineCount === 1) return t`the one line`;
  return isAll
    ? t`all ${formatCount(lineCount)} lines`
    : t`${formatCount(lineCount)} lines, the newest and those still open,`;
}
