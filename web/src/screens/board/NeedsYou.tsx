import type { Board } from '@zubrell/contract/board';
import type { RuleHealth } from '@zubrell/contract/rules';
import { t } from '@zubrell/core/words/t';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { feedsApi } from '../../api/feeds.ts';
import { questionsApi } from '../../api/questions.ts';
import { rulesApi } from '../../api/rules.ts';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate, useToday } from '../../app/useToday.ts';
import { tx } from '../../ui/tx.tsx';
import { causeWords } from '../desk/proof/proofWords.ts';
import { feedNeed } from '../intake/feeds/feedWords.ts';
import { healthWords } from '../rules/ruleShown.ts';

/** What of a rule's health needs somebody, and what is said of it. */
const RULE_TITLES: Partial<Record<RuleHealth['kind'], string>> = {
  overruled: t`A rule disagrees with you`,
  stopped: t`A rule no longer posts at once`,
  gone: t`A rule uses something deleted`,
};

function ruleTitle(health: readonly RuleHealth[]): string {
  return health.flatMap(({ kind }) => RULE_TITLES[kind] ?? [])[0] ?? '';
}

/** What somebody has to look at: feeds in trouble, balances that don't add up. */
export function NeedsYou({ board }: { readonly board: Board }) {
  const { booksId, bankAccountName, amount, currencyOf } = useBooks();
  const showDate = useShowDate();
  const today = useToday();
  const { journals } = board;
  const { data } = feedsApi.useFeedsQuery(booksId);
  const feeds = (data?.feeds ?? []).flatMap((feed) => {
    const need = feedNeed(feed, today);
    return need ? [{ id: feed.id, ...need }] : [];
  });
  const asked = questionsApi.useQuestionsQuery(booksId).data?.questions ?? [];
  const answered = asked.filter(({ state }) => state === 'answered');
  const waiting = asked.filter(({ state }) => state === 'open');
  const rules = rulesApi.useRulesQuery(booksId).data?.rules ?? [];
  const numberOf = (id: string) => rules.find((rule) => rule.id === id)?.number ?? null;
  const troubled = rules.flatMap(({ id, name, isOn, health }) => {
    const own = health.filter(({ kind }) => kind in RULE_TITLES);
    return isOn && own.length > 0 ? [{ id, name, health: own }] : [];
  });
  return (
    <aside className="needs" aria-label={t`Needs you`}>
      <h2>{t`Needs you`}</h2>
      {feeds.map(({ id, title, words, remedy }) => (
        <Need
          key={id}
          title={title}
          action={
            <Link className="btn btn-plain" to={`/books/${booksId}/intake`}>
              {remedy === 'signIn' ? t`Sign in again` : t`Look at the feed`}
            </Link>
          }
        >
          {words}
        </Need>
      ))}
      {answered.map(({ id, askedOf, words, answers }) => (
        <Need
          key={id}
          title={t`${askedOf} answered`}
          action={
            <Link className="btn btn-plain" to={`/books/${booksId}/desk?lane=check`}>
              {t`Go to Check`}
            </Link>
          }
        >
          “{words}” {answers.at(-1)?.words}
        </Need>
      ))}
      {troubled.map(({ id, name, health }) => (
        <Need
          key={id}
          title={ruleTitle(health)}
          action={
            <Link className="btn btn-plain" to={`/books/${booksId}/rules/${id}`}>
              {t`Open rule`}
            </Link>
          }
        >
          “{name}”: {health.map((each) => healthWords(each, numberOf)).join('; ')}.
        </Need>
      ))}
      {board.clearing.map(({ role, accountId, balance, count, since, days, isStale, who }) => (
        <Need
          key={role}
          title={
            role === 'suspense'
              ? t`${amount(balance)} on suspense`
              : t`${amount(balance)} between own accounts`
          }
          action={
            <Link className="btn btn-plain" to={`/books/${booksId}/ledger/${accountId}`}>
              {t`Open register`}
            </Link>
          }
        >
          {tx`${(
            <span className={isStale ? 'doubt' : ''}>
              {isStale
                ? t`Since ${showDate(since)}, ${counted(days, 'day', 'days')}, longer than these books allow.`
                : t`Since ${showDate(since)}, ${counted(days, 'day', 'days')}.`}
            </span>
          )} ${counted(count, 'entry', 'entries')}, the last by ${who}.`}
        </Need>
      ))}
      {journals.due > 0 && (
        <Need
          title={counted(journals.due, 'recurring journal is due', 'recurring journals are due')}
          action={
            <Link className="btn btn-plain" to={`/books/${booksId}/ledger/recurring`}>
              {t`Open recurring journals`}
            </Link>
          }
        >
          {t`Since ${showDate(journals.oldest ?? today)}.`}
        </Need>
      )}
      {waiting.length > 0 && (
        <Need
          title={counted(
            waiting.length,
            'question is waiting for an answer',
            'questions are waiting for answers',
          )}
          action={
            <Link className="btn btn-plain" to={`/books/${booksId}/desk?lane=asked`}>
              {t`Go to Asked`}
            </Link>
          }
        >
          {tx`The oldest of ${showDate(waiting[0]?.askedAt.slice(0, 10) ?? '')}, to ${waiting[0]?.askedOf}.`}
        </Need>
      )}
      {board.causes.length + feeds.length + asked.length + board.clearing.length + journals.due ===
        0 && <p className="quiet">{t`Nothing needs you here.`}</p>}
      {board.causes.map((cause) => (
        <Need
          key={`${cause.kind} ${cause.bankAccountId} ${cause.lineId ?? cause.entryId}`}
          title={t`${bankAccountName(cause.bankAccountId)}: ${amount(cause.amount, { currency: currencyOf(cause.bankAccountId) })} unexplained`}
          action={
            <Link
              className="btn btn-plain"
              to={`/books/${booksId}/desk?account=${cause.bankAccountId}&period=${cause.date.slice(0, 7)}`}
            >
              {t`Open the month`}
            </Link>
          }
        >
          {causeWords(cause, { showDate, amount })}
        </Need>
      ))}
      {journals.next && (
        <p className="quiet">
          {t`Next recurring journal: ${journals.next.name}, ${amount(journals.next.amount)}, on ${showDate(journals.next.date)}.`}
        </p>
      )}
    </aside>
  );
}

/** One thing that waits for somebody, with what to do. */
function Need({
  title,
  action,
  children,
}: {
  readonly title: string;
  readonly action: ReactNode;
  readonly children: ReactNode;
}) {
  return (
    <section className="need">
      <h3>{title}</h3>
      <p>{children}</p>
      {action}
    </section>
  );
}
