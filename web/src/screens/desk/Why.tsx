import type { Proposal } from '@zubrell/contract/desk';
import { doubtKey, type Lane, laneOf, proposedCoding } from '@zubrell/core/propose/proposal';
import { doubtWords, groundWords } from '@zubrell/core/propose/words';
import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Moon } from '../../ui/Moon.tsx';
import { EvidenceList } from './EvidenceList.tsx';
import { NudgeActions, type OpenRow } from './NudgeActions.tsx';
import { percentOf } from './percentOf.ts';

const HEADINGS = {
  ready: t`Why it is Ready`,
  check: t`Why it waits in Check`,
  blank: t`Why it is Blank`,
  asked: t`Why it waits`,
} as const;

/** Grounds and doubts of a proposal in words, with the alternatives. */
export function Why({
  row,
  proposal,
  lane = laneOf(proposal),
}: {
  readonly row: OpenRow;
  readonly proposal: Proposal | null;
  /** Where it stands, if not for the proposal's sake alone. */
  readonly lane?: Lane;
}) {
  const { booksId, accountName } = useBooks();
  const sureness = row.kind === 'line' ? row.line.sureness : null;
  const { answer } = row.kind === 'line' ? row.line : row.stack;
  const isMixed = row.kind === 'stack' && row.stack.accountCount > 0;
  const several = proposal?.doubts.find((doubt) => doubt.kind === 'severalAccounts');
  const total = several?.accounts.reduce((sum, { times }) => sum + times, 0) ?? 0;
  return (
    <section>
      <h2 className="small-heading">{HEADINGS[lane]}</h2>
      <ul className="why">
        {lane === 'asked' && (
          <li>
            <Moon kind="asked" />
            <span>{t`A question about this line is waiting for an answer.`}</span>
          </li>
        )}
        {answer !== null && (
          <li>
            <Moon kind="asked" />
            <span>{t`The answer: “${answer}”`}</span>
          </li>
        )}
        {proposal === null && (
          <li>
            <Moon kind="blank" />
            <span>
              {isMixed
                ? t`Its lines are proposed to different accounts. Open the stack to see each.`
                : t`No look-alike has been decided yet.`}
            </span>
          </li>
        )}
        {proposal?.doubts.map((doubt) => (
          <li key={doubtKey(doubt)}>
            <Moon kind="check" />
            <span>
              {doubtWords(doubt, accountName)}
              {doubt.kind === 'nudge' && (
                <NudgeActions
                  doubt={doubt}
                  row={row}
                  payeeId={proposedCoding(proposal)?.payeeId ?? null}
                />
              )}
            </span>
          </li>
        ))}
        {sureness !== null && (
          <li>
            <Moon kind={lane === 'ready' ? 'ready' : 'check'} />
            <span>{t`${percentOf(sureness)} % sure of the account.`}</span>
          </li>
        )}
        {proposal?.grounds.map((ground) => (
          <li key={ground.kind}>
            <Moon kind={ground.kind === 'habitSays' ? 'check' : 'ready'} />
            <span>
              {groundWords(ground, accountName)}{' '}
              {ground.kind === 'rule' && (
                <Link to={`/books/${booksId}/rules/${ground.ruleId}`}>{t`See the rule`}</Link>
              )}
            </span>
          </li>
        ))}
      </ul>
      {row.kind === 'line' && proposal?.source === 'habit' && <EvidenceList lineId={row.id} />}
      {several?.accounts.map(({ accountId, times }, index) => (
        <div className="alternative" key={accountId}>
          <span>{accountName(accountId)}</span>
          <span className="bar" aria-hidden>
            <i
              className={index === 0 ? '' : 'less'}
              style={{ width: `${(100 * times) / total}%` }}
            />
          </span>
          <span className="num">{t`${formatCount(times)} of ${formatCount(total)}`}</span>
        </div>
      ))}
    </section>
  );
}
