import { describe, expect, it } from 'vitest';
import { habitLine, memoryOf, type Past, predicted, times } from '../../testing/decided.ts';
import { doubtLabel, doubtWords, groundWords } from '../words.ts';
import { evaluate, type PastLine, replay } from './evaluate.ts';
import { type HabitProposal, proposeFromHabit } from './proposeFromHabit.ts';
import { ownShift, probabilityOf } from './sureness.ts';

const OTHERS: readonly Past[] = [
  ['CRD PUR COBBLE CAFE 4 GARRAN', -480, 'meals'],
  ['CRD PUR STAGWELL FUEL 20311 GARRAN', -5_100, 'travel'],
  ['CRD PUR PARCEL LOCKER 18 LYNMO', -990, 'parcels'],
  ['DD ORRIN MOBILE 4471882', -2_900, 'phone'],
  ['CRD PUR HARROW TOOLS 88 LYNMO', -8_400, 'repairs'],
];
const FREIGHT: Past = ['CRD PUR TIDEMARK FREIGHT 20318 GARRAN', -4_850, 'freight'];
const books = { isAccountOn: () => true, shift: 0 };

function accountOf(past: readonly Past[], description: string, amount = -4_850) {
  return predicted(memoryOf(past), habitLine(description, amount))?.accounts[0]?.accountId;
}

function habitOf(past: readonly Past[], description: string, amount: number): HabitProposal | null {
  return proposeFromHabit(predicted(memoryOf(past), habitLine(description, amount)), books);
}

describe('look-alikes', () => {
  it.each([
    ['another terminal and town', 'CRD PUR TIDEMARK FREIGHT 99122 LYNMO'],
    ['another prefix', 'POS TIDEMARK FREIGHT 12.03.'],
    ['cut off', 'CRD PUR TIDEMARK FREI'],
    ['without its space', 'CRD PUR TIDEMARKFREIGHT 20318'],
    ['misspelt', 'CRD PUR TIDEMRK FREIGHT 20318'],
    ['in lower case with other spacing', 'tidemark   freight, garran'],
    ['turned round', 'FREIGHT TIDEMARK'],
  ])('are found with %s', (_how, description) => {
    expect(accountOf([...OTHERS, ...times(5, FREIGHT)], description)).toBe('freight');
  });

  it('are found with the name moved into the reference', () => {
    const reference = 'TIDEMARK FREIGHT EREF AB1234567';
    const line = habitLine('CARD PAYMENT', -4_850, { reference });
    const found = predicted(memoryOf([...OTHERS, ...times(5, FREIGHT)]), line);
    expect(found?.accounts[0]?.accountId).toBe('freight');
  });

  it('are kept apart from payees that share a leading word', () => {
    const past = [
      ...OTHERS,
      ...times(4, ['HARROW TABLE SHOP 1', 52_000, 'sales']),
      ...times(4, ['HARROW TOOLS 5', -8_400, 'repairs']),
    ];
    expect(accountOf(past, 'HARROW TABLE SHOP 77', 61_000)).toBe('sales');
    expect(accountOf(past, 'HARROW TOOLS 12', -7_900)).toBe('repairs');
  });
});

describe('decisions on money of the other direction', () => {
  it('count far less than those of the same', () => {
    const past = [
      ...OTHERS,
      ...times(4, ['TIDEMARK FREIGHT', 4_850, 'refunds']),
      ...times(1, ['TIDEMARK FREIGHT', -4_850, 'freight']),
    ];
    const accounts = (amount: number) =>
      predicted(memoryOf(past), habitLine('TIDEMARK FREIGHT', amount))?.accounts ?? [];
    expect(accounts(4_850)[0]?.accountId).toBe('refunds');
    expect(accounts(-4_850)[0]?.accountId).toBe('freight');
  });
});

describe('what tells accounts of one payee apart', () => {
  const both = (first: Past, second: Past): Past[] => [
    ...OTHERS,
    ...Array.from({ length: 6 }, () => [first, second]).flat(),
  ];

  it('is a word, also where another begins like it', () => {
    const past = both(
      ['TIDEMARK FREIGHT PARK', -4_850, 'travel'],
      ['TIDEMARK FREIGHT PARKING', -4_850, 'freight'],
    );
    expect(accountOf(past, 'TIDEMARK FREIGHT PARK')).toBe('travel');
    expect(accountOf(past, 'TIDEMARK FREIGHT PARKING')).toBe('freight');
  });

  it('is a word, also where it is cut off', () => {
    const each: readonly Past[] = [
      ['TIDEMARK FREIGHT EXPORT', -4_850, 'freight'],
      ['TIDEMARK FREIGHT IMPORT', -4_850, 'clay'],
      ['TIDEMARK FREIGHT EXPRESS', -4_850, 'parcels'],
    ];
    const past = [...OTHERS, ...Array.from({ length: 6 }, () => each).flat()];
    const found = (text: string) => predicted(memoryOf(past), habitLine(text, -4_850));
    const share = (text: string) => found(text)?.accounts[0]?.share ?? 0;
    expect(found('TIDEMARK FREIGHT IM')?.accounts[0]?.accountId).toBe('clay');
    expect(share('TIDEMARK FREIGHT IM')).toBeGreaterThan(0.9);
    // Either of two, but not the third.
    const either = found('TIDEMARK FREIGHT EXP')?.accounts ?? [];
    expect(either.slice(0, 2).map(({ accountId }) => accountId)).toEqual(['parcels', 'freight']);
    expect(share('TIDEMARK FREIGHT EXP')).toBeLessThan(0.7);
  });

  it('is a word', () => {
    const past = both(
      ['TIDEMARK FREIGHT 20318', -4_850, 'freight'],
      ['TIDEMARK FREIGHT IMPORT 311', -4_850, 'clay'],
    );
    const found = habitOf(past, 'TIDEMARK FREIGHT IMPORT 9', -4_850);
    expect(found?.proposal.coding.parts[0]?.accountId).toBe('clay');
    const grounds = found?.proposal.grounds.map((ground) => groundWords(ground, (id) => id));
    expect(grounds).toEqual([
      '6 of 12 look-alikes went to clay.',
      'The account depends on whether it says IMPORT.',
    ]);
  });

  it('is a number that comes again, and a new one is said to be new', () => {
    const terminals = ['40771902', '40771933', '40772518'] as const;
    const accounts = ['sales', 'classes', 'rent'] as const;
    const past = [
      ...OTHERS,
      ...Array.from({ length: 5 }, (_, week) =>
        terminals.map(
          (terminal, at): Past => [
            `CARD SETTLEMENT TID ${terminal}`,
            20_000 + 1_111 * ((7 * week + 3 * at) % 5),
            accounts[at] ?? '',
            { payeeId: 'cards', reference: `BATCH ${70_000 + 31 * week + at}` },
          ],
        ),
      ).flat(),
    ];
    for (const [at, terminal] of terminals.entries()) {
      const found = habitOf(past, `CARD SETTLEMENT TID ${terminal}`, 22_222);
      expect(found?.proposal.coding.parts[0]?.accountId).toBe(accounts[at]);
      expect(found?.proposal.grounds.map((ground) => groundWords(ground, (id) => id))).toContain(
        `The account depends on the number ${terminal}.`,
      );
    }
    const fresh = habitOf(past, 'CARD SETTLEMENT TID 40779999', 22_222);
    expect(fresh?.proposal.doubts).toContainEqual({ kind: 'newNumber', number: '40779999' });
  });

  it('is a number that was seen but once, if it is too long to come again by chance', () => {
    const terminals = ['40771902', '40771933', '40772518'] as const;
    const past = [
      ...OTHERS,
      ...terminals.map(
        (terminal, at): Past => [
          `CARD SETTLEMENT TID ${terminal}`,
          20_000 + 1_111 * at,
          ['sales', 'classes', 'rent'][at] ?? '',
          { payeeId: 'cards' },
        ],
      ),
    ];
    const found = habitOf(past, 'CARD SETTLEMENT TID 40771902', 22_222);
    expect(found?.proposal.coding.parts[0]?.accountId).toBe('sales');
    expect(found?.proposal.grounds.map((ground) => groundWords(ground, (id) => id))).toContain(
      'The account depends on the number 40771902.',
    );
    // Seen once it may be chance after all.
    expect(found?.proposal.doubts).not.toEqual([]);
  });

  it('finds the payee by its number where the name says nothing', () => {
    const named = { payeeId: 'orrin', reference: 'MANDATE 7730914452' };
    const past = [
      ...OTHERS,
      ...times(3, [
        'COLLECTION',
        -900,
        'meals',
        { payeeId: 'cobble', reference: 'MANDATE 1180022' },
      ]),
      ...times(3, ['COLLECTION', -2_900, 'phone', named]),
    ];
    const line = habitLine('COLLECTION', -3_300, { reference: 'MANDATE 7730914452' });
    const found = predicted(memoryOf(past), line);
    expect(found?.payeeId).toBe('orrin');
    expect(found?.accounts[0]?.accountId).toBe('phone');
  });

  it('is one of several bands of amounts', () => {
    const bands: readonly Past[] = [
      ['STAGWELL DEPOT', -1_000, 'fuel'],
      ['STAGWELL DEPOT', -6_000, 'repairs'],
      ['STAGWELL DEPOT', -50_000, 'vehicles'],
    ];
    const past = [...OTHERS, ...Array.from({ length: 5 }, () => bands).flat()];
    expect(accountOf(past, 'STAGWELL DEPOT', -1_300)).toBe('fuel');
    expect(accountOf(past, 'STAGWELL DEPOT', -7_500)).toBe('repairs');
    expect(accountOf(past, 'STAGWELL DEPOT', -41_000)).toBe('vehicles');
  });

  it('is the very same amount, where two prices lie close together', () => {
    const past = both(['LOAMDESK', -1_299, 'software'], ['LOAMDESK', -1_499, 'data']);
    expect(accountOf(past, 'LOAMDESK', -1_499)).toBe('data');
    expect(accountOf(past, 'LOAMDESK', -1_299)).toBe('software');
  });

  it('is the amount, the direction or the bank account', () => {
    const byAmount = both(
      ['BRINDLE FOODS 1', -1_500, 'meals'],
      ['BRINDLE FOODS 2', -30_000, 'stock'],
    );
    expect(accountOf(byAmount, 'BRINDLE FOODS 9', -27_000)).toBe('stock');
    expect(accountOf(byAmount, 'BRINDLE FOODS 9', -1_800)).toBe('meals');
    const bySide = both(['KESTREL POOL 1', -4_000, 'rent'], ['KESTREL POOL 2', 4_000, 'sales']);
    expect(accountOf(bySide, 'KESTREL POOL 3', 4_100)).toBe('sales');
    const card = { bankAccountId: 'card' };
    const byBank = both(['LOAMDESK 1', -1_800, 'software'], ['LOAMDESK 2', -1_800, 'own', card]);
    const line = habitLine('LOAMDESK 3', -1_800, card);
    expect(predicted(memoryOf(byBank), line)?.accounts[0]?.accountId).toBe('own');
  });

  it('is not made up where nothing does: then there are several usual accounts', () => {
    const meals: Past = ['BRINDLE FOODS', -4_800, 'meals'];
    const past = both(meals, ['BRINDLE FOODS', -4_800, 'drawings']);
    const [doubt] = habitOf(past, 'BRINDLE FOODS', -4_800)?.proposal.doubts ?? [];
    expect(doubt && doubtLabel(doubt)).toBe('two usual accounts');
  });
});

describe('what is newer', () => {
  it('weighs more, but one odd decision does not outvote many', () => {
    const usual = times(12, FREIGHT);
    const odd: Past = ['CRD PUR TIDEMARK FREIGHT 20318 GARRAN', -4_850, 'clay'];
    expect(accountOf([...OTHERS, ...usual, odd], 'TIDEMARK FREIGHT 2')).toBe('freight');
    expect(accountOf([...OTHERS, ...usual, ...times(4, odd)], 'TIDEMARK FREIGHT 2')).toBe('clay');
  });

  it.each([1, 3])(
    'does not let one odd decision outvote older ones, %s months before',
    (months) => {
      const on = (date: string, accountId: string): Past => [
        FREIGHT[0],
        -4_850,
        accountId,
        { date },
      ];
      const first = `2025-${String(9 - months).padStart(2, '0')}`;
      const past = [
        on(`${first}-03`, 'freight'),
        on(`${first}-20`, 'freight'),
        on('2025-09-01', 'clay'),
      ];
      expect(accountOf([...OTHERS, ...past], 'TIDEMARK FREIGHT 2')).toBe('freight');
    },
  );
});

describe('an account that changes for good', () => {
  const moved: Past = ['CRD PUR TIDEMARK FREIGHT 20318 GARRAN', -4_850, 'carriage'];
  const wordsOf = (found: HabitProposal | null) => [
    ...(found?.proposal.grounds.map((ground) => groundWords(ground, (id) => id)) ?? []),
    ...(found?.proposal.doubts.map((doubt) => doubtWords(doubt, (id) => id)) ?? []),
  ];

  it('is a doubt after one line', () => {
    const found = habitOf([...OTHERS, ...times(4, FREIGHT), moved], 'TIDEMARK FREIGHT 2', -4_850);
    expect(found?.proposal.coding.parts[0]?.accountId).toBe('freight');
    expect(wordsOf(found)).toContain(
      'The latest look-alike went to carriage: the account may have changed for good.',
    );
  });

  it('is followed after two, and that is said', () => {
    const past = [...OTHERS, ...times(6, FREIGHT), moved, moved];
    const found = habitOf(past, 'TIDEMARK FREIGHT 2', -4_850);
    expect(found?.proposal.coding.parts[0]?.accountId).toBe('carriage');
    expect(wordsOf(found)).toContain('Its newest 2 all went to carriage, and none before.');
  });

  it('is none where something tells the newest apart', () => {
    const imported: Past = ['TIDEMARK FREIGHT IMPORT 311', -4_850, 'clay'];
    const past = [...OTHERS, ...times(8, FREIGHT), imported, imported];
    const found = habitOf(past, 'TIDEMARK FREIGHT 20318', -4_850);
    expect(found?.proposal.coding.parts[0]?.accountId).toBe('freight');
  });
});

describe('sureness', () => {
  it('grows with the times seen, and is not there for what is new', () => {
    const seen = (count: number) =>
      habitOf([...OTHERS, ...times(count, FREIGHT)], 'TIDEMARK FREIGHT 2', -4_850)?.sureness ?? 0;
    expect(seen(8)).toBeGreaterThan(seen(1));
    expect(seen(8)).toBeGreaterThan(0.95);
    expect(habitOf(OTHERS, 'QUAYSIDE MOORING', -9_000)?.sureness ?? 0).toBeLessThan(0.5);
  });

  it('says why it is not sure', () => {
    const once: Past = ['QUILLON LETTINGS', -9_000, 'rent'];
    const found = habitOf([...OTHERS, once], 'QUILLON LETTINGS', -2_000);
    expect(found?.proposal.doubts.map(doubtLabel)).toEqual(['seen only once']);
    const line = habitLine('TIDEMARK FREIGHT', -4_850);
    const sure = predicted(memoryOf([...OTHERS, ...times(8, FREIGHT)]), line);
    const off = proposeFromHabit(sure, { ...books, isAccountOn: () => false });
    const doubt = { kind: 'accountOff', accountId: 'freight' };
    expect(off?.proposal.doubts).toContainEqual(doubt);
  });

  it('is shifted by the books’ own record, carefully', () => {
    const record = (right: number, wrong: number) => [
      ...Array.from({ length: right }, () => ({ odds: 3, isRight: true })),
      ...Array.from({ length: wrong }, () => ({ odds: 3, isRight: false })),
    ];
    expect(ownShift([])).toBe(0);
    const shifted = probabilityOf(3 + ownShift(record(320, 80)));
    // Of what was said to be 95 %, 80 % were right: it is believed for the most part.
    expect(shifted).toBeGreaterThan(0.8);
    expect(shifted).toBeLessThan(0.92);
    expect(Math.abs(ownShift(record(3, 1)))).toBeLessThan(0.2);
  });
});

describe('the past, evaluated', () => {
  const past = (month: number, accountId: string | null): PastLine => ({
    ...habitLine(`CRD PUR TIDEMARK FREIGHT ${month}311`, -4_850, { date: `2026-0${month}-05` }),
    accountId,
    payeeId: 'Tidemark Freight',
    taxCodeId: '20',
    isCounted: true,
  });

  it('learns from earlier months only', () => {
    const found = replay([past(1, 'freight'), past(1, 'freight'), past(2, 'clay')]);
    expect(found.map(({ lane }) => lane === 'blank')).toEqual([true, true, false]);
    expect(found[2]?.accountId).toBe('freight');
  });

  it('counts what was right, and leaves lines without an account out', () => {
    const months = [1, 2, 3, 4, 5].map((month) => past(month, 'freight'));
    const { months: figures, from4 } = evaluate([...months, past(5, null)]);
    expect(figures.map(({ month, lines }) => `${month} ${lines}`)).toEqual(
      [1, 2, 3, 4, 5].map((month) => `2026-0${month} 1`),
    );
    expect(from4).toMatchObject({ lines: 2, top1Right: 2, top3Right: 2 });
    expect(from4.calibration.reduce((sum, { lines }) => sum + lines, 0)).toBe(2);
  });
});
