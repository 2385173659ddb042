import type { FirstProposal, LineHistoryItem, LineSheet, RuleThen } from '@zubrell/contract/desk';
import type { Proposal } from '@zubrell/core/propose/proposal';
import { type NameAccount, originWords } from '@zubrell/core/propose/words';
import { t } from '@zubrell/core/words/t';
import { stepWords } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { percentOf } from './percentOf.ts';

/** What was first proposed for a line and by what, who decided, and each change since, the newest first. */
export function LineTrail({
  sheet: { history, first },
}: {
  readonly sheet: Pick<LineSheet, 'history' | 'first'>;
}) {
  const showDate = useShowDate();
  return (
    <section>
      <h2 className="small-heading">{t`History`}</h2>
      <ul className="history">
        {history.map((step) => (
          <li key={step.no}>
            {stepWords(step)}
            {step.decision && `, ${decidedWords(step.decision)}`}{' '}
            <span className="quiet">
              {step.who}, {showDate(step.at.slice(0, 10))}
            </span>
          </li>
        ))}
        {first && <First first={first} />}
      </ul>
    </section>
  );
}

function First({ first: { at, proposal, sureness, rule } }: { readonly first: FirstProposal }) {
  const { accountName } = useBooks();
  const showDate = useShowDate();
  return (
    <li>
      {t`First proposed ${proposedWords(proposal, accountName)}, ${originOf(proposal.source, rule)}`}
      {sureness !== null && t`, ${percentOf(sureness)} % sure`}{' '}
      <span className="quiet">{showDate(at.slice(0, 10))}</span>
    </li>
  );
}

/** What a proposal would have done. */
function proposedWords(proposal: Proposal, accountName: NameAccount): string {
  if (proposal.kind === 'ask') return t`to ask ${proposal.askedOf}`;
  if (proposal.kind === 'exclude') return t`to exclude it`;
  if (proposal.kind === 'pair') return t`to pair it`;
  const [part, ...more] = proposal.coding.parts;
  if (!part) return t`to code it`;
  return more.length > 0 ? t`a split in ${more.length + 1}` : accountName(part.accountId);
}

function decidedWords({ by, rule, isKept }: NonNullable<LineHistoryItem['decision']>): string {
  if (by === 'hand') return t`by hand`;
  const origin = originOf(by, rule);
  return isKept ? t`as proposed ${origin}` : t`differently from the proposal ${origin}`;
}

function originOf(source: Parameters<typeof originWords>[0], rule: RuleThen | null): string {
  return rule === null
    ? originWords(source)
    : t`by the rule “${rule.name}”, version ${rule.version}`;
}
