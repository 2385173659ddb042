import { plainWording } from '../../text/plainWording.ts';
import { accountForTrade, type NamedAccount, trades } from '../starter/trades.ts';

/** How much speaks for two accounts being for the same thing, from 0; less than the least is not enough. */
const LEAST = 0.45;
const SAME_TRADE = 0.6;
const IN_PURPOSE = 0.5;
/** So many payees that both have are as good as the same name. */
const COMMON_PAYEES = 2;
/** Words are compared by so many of their letters, so that one and many are the same in most languages. */
const LETTERS = 5;
/** So many of a chart's plain numbers have to be in another, or the same number is chance. */
const SAME_NUMBERING = 0.7;
/** Words that say nothing of what an account is for. */
const EMPTY = new Set([
  'AND',
  'THE',
  'FOR',
  'OTHER',
  'COST',
  'EXPEN',
  'ACCOU',
  'GENER',
  'UND',
  'DER',
]);

/** An account with the payees whose lines went there, as both charts name them. */
export interface UsedAccount extends NamedAccount {
  readonly payees: ReadonlySet<string>;
}

/**
 * Which accounts of a chart are for the same as those of another: by name, by the words for what goes there, by the
 * trade that they are for, and by payees that both have.
 *
 * @returns by the id of theirs, the id of ours; without those that none of ours is like
 */
export function matchAccounts(
  theirs: readonly UsedAccount[],
  ours: readonly UsedAccount[],
): ReadonlyMap<string, string> {
  const traded = new Set<string>();
  for (const trade of trades) {
    const [from, to] = [accountForTrade(trade, theirs), accountForTrade(trade, ours)];
    if (from && to) traded.add(`${from}|${to}`);
  }
  const isNumberedAlike = numberedAlike(theirs, ours);
  const ourWords = ours.map(wordsOf);
  const found = new Map<string, string>();
  for (const their of theirs) {
    const words = wordsOf(their);
    let most = LEAST;
    for (const [at, our] of ours.entries()) {
      if (our.type !== their.type) continue;
      const own = ourWords[at];
      const score =
        (own ? likenessOf(words, own, isNumberedAlike) : 0) +
        (traded.has(`${their.id}|${our.id}`) ? SAME_TRADE : 0) +
        commonOf(their, our) / COMMON_PAYEES;
      if (score <= most) continue;
      most = score;
      found.set(their.id, our.id);
    }
  }
  return found;
}

/**
 * Which accounts of several charts are for the same as those of one: those that {@link matchAccounts} finds, and
 * those that another chart's account is for that is found, as payees that both have tell.
 */
export function matchAll(
  charts: readonly (readonly UsedAccount[])[],
  ours: readonly UsedAccount[],
): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  for (const chart of charts) {
    for (const [theirs, own] of matchAccounts(chart, ours)) found.set(theirs, own);
  }
  const direct = charts.flat().filter(({ id }) => found.has(id));
  for (const account of charts.flat()) {
    if (found.has(account.id)) continue;
    const votes = new Map<string, number>();
    for (const other of direct) {
      const common = other.type === account.type ? commonOf(account, other) : 0;
      const own = found.get(other.id);
      if (own !== undefined && common > 0) votes.set(own, (votes.get(own) ?? 0) + common);
    }
    const [best, second] = [...votes].sort((a, b) => b[1] - a[1]);
    // Where two are about as likely it is neither.
    if (best && best[1] >= COMMON_PAYEES && best[1] >= 2 * (second?.[1] ?? 0)) {
      found.set(account.id, best[0]);
    }
  }
  return found;
}

/** What an account's name, and what is said to go there, are made of. */
interface Words {
  readonly name: string;
  readonly inName: ReadonlySet<string>;
  readonly inPurpose: ReadonlySet<string>;
}

function wordsOf({ name, purpose }: NamedAccount): Words {
  return { name: plainWording(name), inName: stems(name), inPurpose: stems(purpose) };
}

function stems(text: string): ReadonlySet<string> {
  const words = plainWording(text)
    .split(' ')
    .filter((word) => word.length > 2 && !/\p{N}/u.test(word))
    .map((word) => word.replace(/S$/, '').slice(0, LETTERS));
  return new Set(words.filter((word) => !EMPTY.has(word)));
}

function likenessOf(theirs: Words, ours: Words, isNumberedAlike: boolean): number {
  // A number alone says nothing, unless the charts are numbered alike.
  const isSame = theirs.name === ours.name && theirs.name !== '';
  if (isSame && (theirs.inName.size > 0 || isNumberedAlike)) return 2;
  const least = Math.min(theirs.inName.size, ours.inName.size) || 1;
  let shared = 0;
  for (const word of theirs.inName) {
    if (ours.inName.has(word)) shared += 1;
    else if (ours.inPurpose.has(word)) shared += IN_PURPOSE;
  }
  for (const word of theirs.inPurpose) if (ours.inName.has(word)) shared += IN_PURPOSE;
  return Math.min(1.5, shared / least);
}

function numberedAlike(theirs: readonly NamedAccount[], ours: readonly NamedAccount[]): boolean {
  const numbers = theirs.filter(({ name }) => !/\p{L}{2}/u.test(name)).map(({ name }) => name);
  const own = new Set(ours.map(({ name }) => name));
  const known = numbers.filter((number) => own.has(number));
  return numbers.length > 0 && known.length >= SAME_NUMBERING * numbers.length;
}

function commonOf(theirs: UsedAccount, ours: UsedAccount): number {
  let common = 0;
  for (const payee of theirs.payees) if (ours.payees.has(payee)) common += 1;
  return common;
}
