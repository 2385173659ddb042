import { Proposal } from '@zubrell/contract/desk';
import { PairingView, PairRow } from '@zubrell/contract/pairing';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { parseDate } from '@zubrell/core/dates/parseDate';
import { fail, ZubrellError } from '@zubrell/core/errors';
import type { BankAccountId, BooksId, LineId } from '@zubrell/core/ids';
import { sumOf } from '@zubrell/core/money/minor';
import { findGroups } from '@zubrell/core/pair/findSets';
import type { namesIn } from '@zubrell/core/pair/namesIn';
import type { PairLine } from '@zubrell/core/pair/pairing';
import { asOne, type Ranked, rankCandidates } from '@zubrell/core/pair/rankCandidates';
import {
  lineReader,
  namesNumber,
  numbersIn,
  payeesOf,
  readCandidate,
} from '@zubrell/core/pair/weighPair';
import { parseSearch } from '@zubrell/core/text/parseSearch';
import { plainWording } from '@zubrell/core/text/plainWording';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BooksTx, rowsOf, type Tx } from '../../db/database.ts';
import { hasOtherCurrency } from '../../db/otherCurrency.ts';
import { idRow } from '../../db/rows.ts';
import { type BooksMoney, loadMoney } from '../books/money.ts';
import { booksCurrency, lastStepOf, taxRatesOf } from '../books/queries.ts';
import { type BooksCandidate, booksCandidates } from '../ledger/candidates.ts';
import {
  daysOfPairing,
  inCurrencyOfLines,
  isByBanksRate,
  type PaidCandidate,
} from '../ledger/settledWorths.ts';
import { isOpenLine, isOpenOfSize } from '../lines/lineState.ts';
import { booksNames, type OpenPairLine, openLines } from './findPairs.ts';

/** So many are shown that a search found. */
const FOUND = 60;
/** A bank's correction and the other half of a move come so many days apart at most. */
const CANCELLING_DAYS = 30;

const ViewedLine = z.object({
  id: z.string(),
  date: z.string(),
  amount: z.number(),
  description: z.string(),
  reference: z.string().nullable(),
  bankAccountId: idRow<BankAccountId>(),
  proposal: Proposal.nullable(),
});
type ViewedLine = z.infer<typeof ViewedLine>;

/** All that some open lines could be in the books already. @throws {ZubrellError} LINE_UNKNOWN */
export async function pairingView(
  tx: Tx,
  booksId: BooksId,
  lineIds: readonly LineId[],
  search: string,
): Promise<PairingView> {
  const seenStep = await lastStepOf(tx, booksId);
  const currency = await booksCurrency(tx, booksId);
  const ids = sql.param(lineIds);
  const viewed = await rowsOf(
    tx,
    ViewedLine,
    sql`select l.id, l.date, l.amount, l.description, l.reference, l.bank_account_id as "bankAccountId",
          p.proposal
        from lines l left join proposals p on p.books_id = l.books_id and p.line_id = l.id
        where l.books_id = ${booksId} and l.id = any(${ids}::uuid[]) and ${isOpenLine}
        order by l.date, l.id`,
  );
  const lines = await openLines(tx, booksId, sql`l.id = any(${ids}::uuid[])`);
  const [first = fail('LINE_UNKNOWN')] = viewed;
  const names = await booksNames(tx, booksId);
  const payees = [...names.payees, ...names.own];
  const isOneCurrency = !(await hasOtherCurrency(tx, booksId));
  const found = await booksCandidates(tx, booksId, {
    // What does not say that a payment came back is one only where the amount is that of the payment.
    ...(search === '' && isOneCurrency && !lineReader([])(asOne(lines)).isReturn
      ? { returnedAmounts: [sumOf(lines), ...lines.map((line) => line.amount)] }
      : {}),
  });
  const money = await loadMoney(tx, booksId, daysOfPairing(lines, found));
  const candidates = shownCandidates(found, lines, money);
  const ranked = rankCandidates(lines, candidates, payees, await taxRatesOf(tx, booksId));
  const show = shownBy(lines.map(({ text }) => text).join(' '), payees);
  const byId = new Map(candidates.map((each) => [each.id, each]));
  const proposal = viewed.length === 1 ? first.proposal : null;
  const amount = sumOf(viewed);
  return {
    lines: viewed.map(({ proposal: _proposal, ...line }) => line),
    proposed: proposal?.kind === 'pair' ? proposal.targets.map(({ id }) => id) : [],
    isCertain: proposal?.kind === 'pair' && proposal.doubts.length === 0,
    sets: ranked.sets.map(({ set, likeness }) => ({
      rows: set.candidateIds
        .flatMap((id) => byId.get(id) ?? [])
        .sort((a, b) => (a.date < b.date ? -1 : 1))
        .map((candidate) => show({ candidate, likeness: 0, differences: [] })),
      because: set.because,
      likeness,
      by: set.by,
    })),
    fits: ranked.fits.map(show),
    nearMisses: [
      ...ranked.nearMisses.map(show),
      ...(await pairedAlready(tx, booksId, first, amount)),
    ],
    found: search === '' ? [] : searched(candidates, search, currency).map(show),
    together:
      viewed.length === 1
        ? await together({ tx, booksId }, lines[0], { candidates, payees }, show)
        : [],
    cancelling: await cancelling(tx, booksId, first, amount),
    seenStep,
  };
}

/** Candidates as these lines could pay them, in their currency; what no rate is known for is left out. */
function shownCandidates(
  candidates: readonly BooksCandidate[],
  lines: readonly OpenPairLine[],
  money: BooksMoney,
): readonly PaidCandidate[] {
  const last = lines.at(-1);
  if (!last) return candidates;
  const known = candidates.filter(
    ({ currency }) =>
      currency === last.currency ||
      [currency, last.currency].every(
        (each) => each === money.own || money.rateOn({ currency: each, date: last.date }) !== null,
      ),
  );
  const paid = sumOf(lines);
  return known.map((candidate) => {
    const [shown = candidate] = inCurrencyOfLines([candidate], last, paid, money);
    return isByBanksRate([shown], paid - shown.amount)
      ? { ...shown, inItsOwn: shown.amount, amount: paid }
      : shown;
  });
}

/** Shows candidates, with the parts of their name and number that a wording has. */
function shownBy(text: string, payees: Parameters<typeof namesIn>[0]) {
  const read = lineReader(payees)({
    id: '',
    bankAccountId: '',
    date: '1970-01-01',
    amount: 0,
    text,
    chequeNumber: null,
    usualPayeeId: null,
  });
  const words = new Set([...plainWording(text).split(' '), ...numbersIn(text)]);
  return ({ candidate, likeness, differences }: Ranked<PaidCandidate>): PairRow => {
    const {
      bankAccountId: _bankAccountId,
      documentId: _documentId,
      currency,
      isEstimate: _isEstimate,
      standing: _standing,
      inItsOwn,
      ...row
    } = candidate;
    const isNumbered = namesNumber(read, readCandidate(candidate));
    const named = (candidate.payee ?? '')
      .split(' ')
      .filter((word) => words.has(plainWording(word)));
    return {
      ...row,
      original: inItsOwn === undefined ? null : { currency, amount: inItsOwn },
      pays: [...row.pays],
      likeness,
      differences: [...differences],
      named: [...named, ...(isNumbered ? numbersOf(candidate) : [])],
      pairedWith: null,
    };
  };
}

/** The numbers that a candidate is known by: its own, and those of what it pays. */
const numbersOf = ({ number, pays }: BooksCandidate) => [...(number ? [number] : []), ...pays];

/** What a search finds: by amount, date, or words of name, number and note. */
function searched(
  candidates: readonly BooksCandidate[],
  typed: string,
  currency: string,
): readonly Ranked<PaidCandidate>[] {
  const search = parseSearch(typed, currency);
  const date = dateIn(typed);
  const words = plainWording(typed).split(' ');
  const fits = (each: BooksCandidate): boolean => {
    if (date !== null) return each.date === date || each.dueDate === date;
    if (search.kind === 'amount') {
      const size = Math.abs(each.amount);
      if (size >= search.from && size <= search.to) return true;
    }
    const text = plainWording(
      [each.payee, each.number, ...each.pays, each.note, each.kind].join(' '),
    );
    return words.every((word) => text.includes(word));
  };
  return candidates
    .filter(fits)
    .sort((a, b) => (a.date < b.date ? 1 : -1))
    .slice(0, FOUND)
    .map((candidate) => ({ candidate, likeness: 0, differences: [] }));
}

function dateIn(typed: string): string | null {
  if (!/^\d{1,4}[-./ ]\w{1,9}[-./ ]\d{1,4}$/.test(typed.trim())) return null;
  try {
    return parseDate(typed, 'dayFirst');
  } catch (error) {
    if (error instanceof ZubrellError) return null;
    throw error;
  }
}

const PairedAlreadyRow = PairRow.omit({ likeness: true, differences: true, named: true });

/** Entries and documents of the amount that are paired already. */
async function pairedAlready(
  tx: Tx,
  booksId: BooksId,
  { date, bankAccountId }: ViewedLine,
  amount: number,
): Promise<PairRow[]> {
  const rows = await rowsOf(
    tx,
    PairedAlreadyRow,
    sql`select t.id, t.kind, t.date, t."dueDate", t.amount, t."payeeId", t.payee, t.number, t."entryId", t.side,
          t.note, null as original, '[]'::json as pays, json_build_object('date', l.date, 'description', l.description) as "pairedWith"
        from (
          select g.id, e.kind, e.date, null::date as "dueDate", g.own as amount, e.payee_id as "payeeId",
            y.name as payee, e.number, e.id as "entryId", null as side, e.note, x.decision_id
          from legs g
          join entries e on e.books_id = g.books_id and e.id = g.entry_id and not e.is_void
          join bank_accounts b on b.books_id = g.books_id and b.account_id = g.account_id
          join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id and x.is_live
          left join payees y on y.books_id = e.books_id and y.id = e.payee_id
          where g.books_id = ${booksId} and g.role = 'bank' and g.own = ${amount}
            and b.id = ${bankAccountId} and e.kind not in ('line', 'settlement', 'opening')
          union all
          select d.id, d.kind, d.date, d.due_date, d.amount, d.payee_id, y.name, d.number, d.entry_id,
            d.side, d.note, a.decision_id
          from documents d
          join allocations a on a.books_id = d.books_id and a.document_id = d.id and a.is_live
          join payees y on y.books_id = d.books_id and y.id = d.payee_id
          where d.books_id = ${booksId} and d.amount = ${amount}) t
        join decision_lines dl on dl.books_id = ${booksId} and dl.decision_id = t.decision_id and dl.is_live
        join lines l on l.books_id = dl.books_id and l.id = dl.line_id
        where t.date between ${addDays(date, -150)} and ${addDays(date, 60)}
        order by abs(t.date - ${date}::date) limit 8`,
  );
  return rows.map((row) => ({ ...row, likeness: 0, differences: [], named: [] }));
}

/** So many lines of one payee are tried together. */
const MOST_TOGETHER = 50;
/** Of so many, the nearest. */
const MOST_NEAR = 150;
const TOGETHER_DAYS = 120;

const DescribedRow = PairingView.shape.cancelling.element;

/** What a line comes to together with other open lines of its payee and bank account. */
async function together(
  { tx, booksId }: BooksTx,
  line: PairLine | undefined,
  {
    candidates,
    payees,
  }: {
    readonly candidates: readonly BooksCandidate[];
    readonly payees: Parameters<typeof namesIn>[0];
  },
  show: (ranked: Ranked<PaidCandidate>) => PairRow,
): Promise<PairingView['together']> {
  if (!line) return [];
  const read = lineReader(payees);
  const own = payeesOf(read(line));
  if (own.size === 0) return [];
  const near = await openLines(
    tx,
    booksId,
    sql`l.id in (
          select o.line_id from open_lines o
          where o.books_id = ${booksId} and o.bank_account_id = ${line.bankAccountId}
            and (o.amount < 0) = ${line.amount < 0}
            and o.date between ${addDays(line.date, -TOGETHER_DAYS)} and ${addDays(line.date, TOGETHER_DAYS)}
          order by o.line_id <> ${line.id}, abs(o.date - ${line.date}::date), o.line_id limit ${MOST_NEAR})`,
  );
  const mates = near
    .map(read)
    .filter((mate) => [...payeesOf(mate)].some((id) => own.has(id)))
    .slice(0, MOST_TOGETHER);
  const theirs = candidates.filter(({ payeeId }) => payeeId !== null && own.has(payeeId));
  const groups = findGroups(mates, theirs).filter(
    ({ lineIds }) => lineIds.length > 1 && lineIds.includes(line.id),
  );
  const ids = groups.flatMap(({ lineIds }) => lineIds);
  const described = await rowsOf(
    tx,
    DescribedRow,
    sql`select id, date, amount, description from lines
        where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[]) order by date`,
  );
  return groups.map(({ lineIds, candidateIds }) => ({
    lines: described.filter(({ id }) => lineIds.includes(id) && id !== line.id),
    rows: theirs
      .filter(({ id }) => candidateIds.includes(id))
      .map((candidate) => show({ candidate, likeness: 3, differences: [] })),
  }));
}

const CancellingRow = z.object({
  id: z.string(),
  date: z.string(),
  amount: z.number(),
  description: z.string(),
});

/** Open lines of the opposite amount: a bank's correction, or the other half of a move. */
async function cancelling(
  tx: Tx,
  booksId: BooksId,
  { date }: ViewedLine,
  amount: number,
): Promise<PairingView['cancelling']> {
  return rowsOf(
    tx,
    CancellingRow,
    sql`select l.id, l.date, l.amount, l.description from lines l
        where l.books_id = ${booksId} and l.amount = ${-amount} and ${isOpenOfSize([amount])}
          and l.date between ${addDays(date, -CANCELLING_DAYS)} and ${addDays(date, CANCELLING_DAYS)}
        order by abs(l.date - ${date}::date) limit 5`,
  );
}
