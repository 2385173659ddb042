import type { RuleLines, RuleTried, TriedLine, TryRule } from '@zubrell/contract/rules';
import { ZubrellError } from '@zubrell/core/errors';
import type { BooksId, RuleId } from '@zubrell/core/ids';
import { checkRule } from '@zubrell/core/propose/rule/checkRule';
import { takesOf } from '@zubrell/core/propose/rule/conditions';
import { type Missed, verdictOf } from '@zubrell/core/propose/rule/nearMiss';
import type { RuleBody, RuleResult } from '@zubrell/core/propose/rule/rule';
import { indexRules } from '@zubrell/core/propose/rule/ruleIndex';
import { wordWarnings } from '@zubrell/core/propose/rule/wordWarnings';
import { MANY_HEADS } from '@zubrell/core/text/headCounts';
import type { Tx } from '../../db/database.ts';
import { type BankLedger, bankLedgers } from '../books/queries.ts';
import { booksLines, type KnownLine, linesByRule, newestFirst } from './booksLines.ts';
import { ruleBooks } from './ruleBooks.ts';
import { activeOf, type RuleState, ruleAmong, ruleRows } from './ruleRows.ts';

/** So many lines of each kind are shown. */
const SHOWN = 150;
const MISSED_SHOWN = 60;

/** What a rule that is being written would do, over all lines of the books. */
export async function tryRule(
  tx: Tx,
  booksId: BooksId,
  { ruleId, body }: TryRule,
): Promise<RuleTried> {
  const { lines, isAll, search, headsWith } = await booksLines(tx, booksId);
  const problem = problemOf(body, await ruleBooks(tx, booksId));
  const nothing: RuleTried = {
    lineCount: lines.length,
    isAll,
    takes: 0,
    same: 0,
    otherwise: 0,
    open: 0,
    earlier: 0,
    against: 0,
    lines: [],
    nearMisses: [],
    missedLines: [],
    warnings: [],
    problem: problem?.message ?? null,
  };
  // A condition that is not filled in yet would take every line.
  if (problem && UNFINISHED.has(problem.code)) return nothing;
  const { taken, missed } = await judged(tx, booksId, ruleId, body);
  const isOpen = ({ state }: TriedLine) => state === 'open';
  const groups = {
    otherwise: taken.filter(({ isSame }) => isSame === false),
    open: taken.filter(isOpen),
    same: taken.filter(({ isSame }) => isSame === true),
  };
  const picked = new Set(Object.values(groups).flatMap((group) => group.slice(0, SHOWN)));
  const counts = new Map<Missed, number>();
  for (const { missed: kind } of missed) if (kind) counts.set(kind, (counts.get(kind) ?? 0) + 1);
  return {
    ...nothing,
    takes: taken.length,
    same: groups.same.length,
    otherwise: groups.otherwise.length,
    open: groups.open.length,
    against: againstOf(taken),
    earlier: taken.filter(({ earlierRuleId }) => earlierRuleId !== null).length,
    lines: taken.filter((line) => picked.has(line) || line.isSame === null).slice(0, 4 * SHOWN),
    nearMisses: [...counts]
      .map(([kind, count]) => ({ missed: kind, count }))
      .sort((a, b) => b.count - a.count),
    // Those that were coded as the rule would have it come first: it should have had them.
    missedLines: [...missed]
      .sort((a, b) => Number(b.isSame === true) - Number(a.isSame === true))
      .slice(0, MISSED_SHOWN),
    warnings: wordWarnings(body.takes, (word) => headsWith(word) >= MANY_HEADS).map((warning) => ({
      ...warning,
      lines: search.linesWith(warning.word),
    })),
  };
}

/** So few lines coded otherwise prove nothing against a rule. */
const TOO_FEW = 3;

/**
 * How many of the lines that a rule takes were coded otherwise by hand, where those are more than were coded as it
 * would have them; else 0. What an earlier rule takes, and what rules coded, says nothing.
 */
export async function againstHand(
  tx: Tx,
  booksId: BooksId,
  ruleId: RuleId | null,
  body: RuleBody,
): Promise<number> {
  return againstOf((await judged(tx, booksId, ruleId, body)).taken);
}

function againstOf(taken: readonly TriedLine[]): number {
  const counts = { same: 0, otherwise: 0 };
  for (const { source, isChanged, isSame, earlierRuleId } of taken) {
    const isByRule = source === 'rule' && !isChanged;
    if (isByRule || isSame === null || earlierRuleId !== null) continue;
    counts[isSame ? 'same' : 'otherwise'] += 1;
  }
  const { same, otherwise } = counts;
  return otherwise >= TOO_FEW && otherwise > same ? otherwise : 0;
}

/** The lines that a rule takes, and those that it nearly takes. */
async function judged(
  tx: Tx,
  booksId: BooksId,
  ruleId: RuleId | null,
  { takes, result }: RuleBody,
): Promise<{ readonly taken: readonly TriedLine[]; readonly missed: readonly TriedLine[] }> {
  const { lines, search } = await booksLines(tx, booksId);
  const earlier = earlierOf(await ruleRows(tx, booksId), ruleId);
  const bankLedger = await bankLedgers(tx, booksId);
  const judge = verdictOf(takes);
  const taken: TriedLine[] = [];
  const missed: TriedLine[] = [];
  for (const line of search.worthALook(lines, takes)) {
    const verdict = judge(line);
    if (verdict === null) continue;
    const isSame = sameAs(result, line, bankLedger);
    if (verdict === 'taken') taken.push(shown(line, earlier(line), isSame, null));
    else missed.push(shown(line, null, isSame, verdict));
  }
  return { taken, missed };
}

const UNFINISHED: ReadonlySet<string> = new Set([
  'RULE_NO_CONDITION',
  'RULE_EMPTY_GROUP',
  'RULE_NO_TEXT',
  'RULE_SHORT_WORD',
  'RULE_WILD',
  'RULE_AMOUNTS',
  'RULE_DATES',
  'RULE_DAYS',
]);

function problemOf(
  body: RuleBody,
  books: Awaited<ReturnType<typeof ruleBooks>>,
): ZubrellError | null {
  try {
    checkRule(body, books);
    return null;
  } catch (error) {
    if (error instanceof ZubrellError) return error;
    throw error;
  }
}

/** Finds the first active rule before one that takes a line. */
export function earlierOf(
  rows: readonly (RuleState & { readonly id: string })[],
  ruleId: RuleId | null,
): (line: KnownLine) => string | null {
  const at = rows.findIndex(({ id }) => id === ruleId);
  const active = activeOf(at < 0 ? rows : rows.slice(0, at));
  const index = indexRules(active);
  return (line) => active[index.first(line)]?.id ?? null;
}

/**
 * Whether a line was decided as a rule would have it: its accounts and its tax; null while it is open, or where it was
 * paired with what is in the books already.
 */
export function sameAs(
  result: RuleResult,
  line: KnownLine,
  bankLedger: BankLedger,
): boolean | null {
  const { state } = line;
  if (state === 'open' || state === 'paired' || result.kind === 'ask') return null;
  // No account is chosen yet.
  if (result.kind === 'code' && result.parts.length === 0) return null;
  if (result.kind === 'exclude') return state !== 'posted';
  if (state !== 'posted') return false;
  if (result.kind === 'transfer') {
    return line.accountIds.length === 1 && line.accountIds[0] === bankLedger(result.bankAccountId);
  }
  const wanted = result.parts.map(({ accountId }) => accountId).sort();
  const [first] = result.parts;
  const isTaxSame =
    result.parts.length > 1 || !first?.taxCodeId || line.taxCodeId === first.taxCodeId;
  return isTaxSame && wanted.join() === [...line.accountIds].sort().join();
}

/** A line as it is listed. */
export function shown(
  line: KnownLine,
  earlierRuleId: RuleId | null,
  isSame: boolean | null,
  missed: Missed | null,
): TriedLine {
  const { facts, id, stem, state, accountIds, taxCodeId, source, ruleId, isKept } = line;
  return {
    id,
    bankAccountId: facts.bankAccountId,
    date: facts.date,
    amount: facts.amount,
    description: facts.description,
    reference: facts.reference,
    payee: facts.payee,
    stem,
    state,
    accountIds: [...accountIds],
    taxCodeId,
    isSame,
    source: source ?? 'hand',
    sourceRuleId: ruleId,
    isChanged: source !== null && state !== 'open' && !isKept,
    earlierRuleId,
    missed,
  };
}

/** The lines that a rule proposed for, whatever became of them, and the open ones that it takes first. */
export async function linesOfRule(tx: Tx, booksId: BooksId, ruleId: RuleId): Promise<RuleLines> {
  const rows = await ruleRows(tx, booksId);
  const rule = ruleAmong(rows, ruleId);
  const { lines } = await booksLines(tx, booksId);
  const before = earlierOf(rows, ruleId);
  const holds = takesOf(rule.body.takes);
  const open = lines.filter(
    (line) => line.state === 'open' && rule.isOn && holds(line) && before(line) === null,
  );
  const own = newestFirst([...(await linesByRule(tx, booksId, ruleId)), ...open]);
  const bankLedger = await bankLedgers(tx, booksId);
  return {
    count: own.length,
    lines: own
      .slice(0, 4 * SHOWN)
      .map((line) => shown(line, null, sameAs(rule.body.result, line, bankLedger), null)),
  };
}
