import { elsewhereFrom } from '@zubrell/core/propose/elsewhere/elsewhereFrom';
import { type PastLine, replay } from '@zubrell/core/propose/habit/evaluate';
import { type Dice, dice } from '@zubrell/core/testing/dice';
import { sized } from '../sized.ts';
import { TONGUES } from './names.ts';
import { dealsOf, makePayees, type Payee } from './payees.ts';
import { type Bank, bare, chatty, coded, formal, long, tagged, terse } from './wordings.ts';

const AIM = 60;
const BOOKS = 12;
const MONTHS = 8;
/** Suppliers of the region, and how many of them each of the books has; the others are their own. */
const POOL = sized(120, 40);
const SHARED = sized(40, 15);
const OWN = sized(40, 10);
/** So many books code a shared supplier to something else than most do. */
const ODD = 0.08;

/** What suppliers are for, each as different charts name it. */
const PURPOSES = [
  ['Freight out', 'Carriage and postage', 'Deliveries and freight', 'Postage and courier'],
  ['Motor fuel', 'Fuel and oil', 'Vehicle running costs', 'Travel and fuel'],
  ['Telephone', 'Phone and internet', 'Mobile and broadband', 'Communications'],
  ['Light and heat', 'Electricity and gas', 'Energy', 'Power and water'],
  ['Insurance', 'Business insurance', 'Insurance premiums', 'Cover and policies'],
  ['Software', 'IT and software', 'Computer costs', 'Software subscriptions'],
  ['Stationery', 'Office supplies', 'Printing and stationery', 'Office costs'],
  ['Repairs', 'Repairs and maintenance', 'Maintenance', 'Upkeep of equipment'],
  ['Materials', 'Raw materials', 'Goods for resale', 'Purchases of materials'],
  ['Advertising', 'Marketing', 'Advertising and marketing', 'Promotion'],
  ['Rent', 'Rent of premises', 'Premises', 'Rent and rates'],
  ['Professional fees', 'Accountancy', 'Legal and professional', 'Advisers'],
  ['Cleaning', 'Cleaning and waste', 'Waste disposal', 'Hygiene'],
  ['Training', 'Courses', 'Staff training', 'Training and books'],
] as const;
const BANKS: readonly Bank[] = [terse(34), coded(12), tagged, long, bare, chatty, formal];

/**
 * How many of the first month's lines of suppliers that other books know are proposed for rightly by them: a dozen
 * books that share suppliers but no chart, each left out and proposed for by the others.
 */
export async function firstMonth(): Promise<string> {
  const throws = dice(2_027);
  const pool = suppliers(throws, POOL);
  const books = Array.from({ length: BOOKS }, (_, at) => makeBooks(throws, pool, at));
  const sums = { shared: 0, right: 0, answered: 0, own: 0, ownAnswered: 0 };
  for (const [at, lines] of books.entries()) {
    const others = books.filter((_, other) => other !== at);
    const known = new Set(others.flat().map(({ payeeId }) => payeeId));
    const first = lines.filter(({ date }) => date < '2025-02');
    const proposals = replay(first, { elsewhere: elsewhereFrom(lines, others) });
    for (const [row, { payeeId, accountId }] of first.entries()) {
      const proposed = proposals[row]?.accountId ?? null;
      if (known.has(payeeId)) {
        sums.shared += 1;
        sums.answered += Number(proposed !== null);
        sums.right += Number(proposed === accountId);
      } else {
        sums.own += 1;
        sums.ownAnswered += Number(proposed !== null);
      }
    }
  }
  const share = (100 * sums.right) / sums.shared;
  return (
    `the first month, by ${BOOKS - 1} other books: first right on ${share.toFixed(1)} % of ` +
    `${sums.shared} lines of shared suppliers (aim: ${AIM} %)  ${share >= AIM ? 'met' : 'NOT MET'}, ` +
    `proposed for ${sums.answered}; wrongly proposed for ${sums.ownAnswered} of ${sums.own} lines of others\n`
  );
}

/** A supplier with what it is for, as a place in the purposes. */
interface Supplier {
  readonly payee: Payee;
  readonly purpose: number;
}

function suppliers(throws: Dice, count: number): Supplier[] {
  const mix = {
    payees: 4 * count,
    fresh: 0,
    branchings: [],
    sharing: 0.08,
    months: 1,
    seldom: 0.2,
  };
  return makePayees(throws, TONGUES.english, mix)
    .filter(({ isIn }) => !isIn)
    .slice(0, count)
    .map((payee) => ({ payee, purpose: throws.whole(0, PURPOSES.length - 1) }));
}

function makeBooks(throws: Dice, pool: readonly Supplier[], at: number): PastLine[] {
  const chart = PURPOSES.map(
    (names, place) => `${4_000 + 137 * at + 10 * place} ${throws.pick(names)}`,
  );
  const bank = BANKS[at % BANKS.length] ?? bare;
  const own = suppliers(throws, OWN);
  const shared = [...pool]
    .map((each) => ({ ...each, order: throws.next() }))
    .sort((a, b) => a.order - b.order)
    .slice(0, SHARED)
    .map((each) =>
      throws.chance(ODD) ? { ...each, purpose: throws.whole(0, PURPOSES.length - 1) } : each,
    );
  return Array.from({ length: MONTHS }, (_, month) => `2025-${String(month + 1).padStart(2, '0')}`)
    .flatMap((month, count) =>
      [...own, ...shared].flatMap(({ payee, purpose }) =>
        dealsOf(throws, payee, count).map((deal): PastLine => {
          const date = `${month}-${String(deal.day).padStart(2, '0')}`;
          const { description, reference } = bank(throws, TONGUES.english, {
            deal,
            name: payee.name,
            date,
          });
          return {
            date,
            amount: deal.amount,
            description,
            reference,
            payee: null,
            bankAccountId: deal.bank,
            accountId: chart[purpose] ?? '',
            payeeId: payee.name,
            taxCodeId: null,
            isCounted: true,
          };
        }),
      ),
    )
    .sort((a, b) => (a.date < b.date ? -1 : 1));
}
