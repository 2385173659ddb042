import type { Feed } from '@zubrell/contract/feeds';
import { daysBetween } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { counted, countLines, formatCount } from '../../../app/formats.ts';

/** So few requests left are worth a word. */
const FEW_CALLS = 3;
/** A consent that ends within so many days is worth a word. */
const SOON = 10;

/** What the last fetch brought, in words; null where none was made. */
export function resultWords({ result }: Feed, amount: (minor: number) => string): string | null {
  if (result === null) return null;
  if (result.kind === 'trouble') return result.message;
  const { newCount, lineCount, doubtfulCount, difference } = result;
  const came =
    newCount === 0 ? t`no new lines` : t`${formatCount(newCount)} new of ${count(lineCount)}`;
  const doubtful =
    doubtfulCount > 0 ? t`, ${formatCount(doubtfulCount)} perhaps already imported` : '';
  if (difference === null) return `${came}${doubtful}`;
  const proof =
    difference === 0 ? t`the balance agrees` : t`the balance is off by ${amount(difference)}`;
  return `${came}${doubtful}; ${proof}`;
}

function count(lines: number): string {
  return countLines(lines);
}

/** Something about a feed that somebody has to look at. */
export interface FeedNeed {
  readonly title: string;
  readonly words: string;
  /** What is to be done about it. */
  readonly remedy: 'signIn' | 'fetch' | null;
}

/**
 * What is wrong with a feed, or soon will be; null where nothing is.
 *
 * @param today the day it is in the books
 */
export function feedNeed(feed: Feed, today: string): FeedNeed | null {
  const { result, callsLeft, consentExpires, bankName, remoteName } = feed;
  if (result?.kind === 'trouble') {
    const isConsent = result.code === 'FEED_CONSENT_EXPIRED' || result.code === 'FEED_ACCOUNT_GONE';
    const remedy = isConsent ? 'signIn' : 'fetch';
    return { title: t`${remoteName}: no lines from ${bankName}`, words: result.message, remedy };
  }
  if (consentExpires !== null && daysBetween(today, consentExpires) <= SOON) {
    const days = daysBetween(today, consentExpires);
    const when = days <= 0 ? t`today` : days === 1 ? t`tomorrow` : t`in ${days} days`;
    const words = t`The consent for ${bankName} ends ${when}. Sign in there again before, so that no day is missed.`;
    return { title: t`${remoteName}: consent ends soon`, words, remedy: 'signIn' };
  }
  if (callsLeft !== null && callsLeft <= FEW_CALLS) {
    const words = t`${bankName} takes ${counted(callsLeft, 'more request', 'more requests')} today. Leave the rest to the daily fetch.`;
    return { title: t`${remoteName}: allowance nearly used`, words, remedy: null };
  }
  return null;
}
