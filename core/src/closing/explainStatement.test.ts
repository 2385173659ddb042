import { describe, expect, it } from 'vitest';
import { addDays } from '../dates/calendarDate.ts';
import { sumOf } from '../money/minor.ts';
import { checkBalances } from './checkpoints.ts';
import { explainStatement } from './explainStatement.ts';
import type { StatementFacts, StatementLine } from './statementFacts.ts';

const period = { from: '2026-02-01', to: '2026-02-28' };

function line(id: string, day: number, amount: number, wording: string): StatementLine {
  return {
    id,
    date: addDays('2026-01-31', day),
    amount,
    wording,
    stem: wording.replace(/ ?\d+/g, ''),
    balance: null,
    isTyped: false,
    isDoubted: false,
  };
}

const lines = [
  line('clay', 3, -16_400, 'PENHALLOW CLAY 8790'),
  line('phone', 14, -5_800, 'ORRIN MOBILE 0300112'),
  line('market', 18, 42_150, 'SALTMARSH MARKET'),
  line('freight', 21, -3_860, 'TIDEMARK FREIGHT 20297'),
  line('tiles', 24, -11_200, 'HEARTHSIDE TILE BATS'),
  line('cafe', 27, -480, 'COBBLE CAFE 2'),
];

/** What is known where the bank has just these lines, and we have others. */
function known(ours: readonly StatementLine[], more: Partial<StatementFacts> = {}): StatementFacts {
  return {
    period,
    opening: 100_000,
    statedOpening: null,
    closing: 100_000 + sumOf(lines),
    isClosingTyped: false,
    lines: [...ours].sort((a, b) => (a.date < b.date ? -1 : 1)),
    keptOut: [],
    before: [],
    after: [],
    announced: [],
    earlier: [],
    stated: [],
    ...more,
  };
}
const without = (id: string) => lines.filter((each) => each.id !== id);
const first = (facts: StatementFacts) => explainStatement(facts)[0];
const phone = lines[1] as StatementLine;

describe('what would explain a statement that is off', () => {
  it('is nothing where it adds up', () => {
    expect(explainStatement(known(lines))).toEqual([]);
  });

  it('is the same payment twice: the later one is the copy', () => {
    const copy = { ...phone, id: 'copy', date: '2026-02-16', wording: 'ORRIN MOBILE' };
    expect(first(known([...lines, copy]))).toMatchObject({
      likelihood: 'very likely',
      causes: [{ kind: 'sameTwice', amount: 5_800, lineIds: ['copy', 'phone'] }],
    });
  });

  it('says less of copies where the same comes as often', () => {
    const copy = { ...phone, id: 'copy', date: '2026-02-16' };
    const facts = known([...lines, copy]);
    const earlier = [3, 5, 10, 12].map((day) => ({ ...phone, date: addDays('2026-01-01', day) }));
    expect(first(facts)?.causes[0]?.reasons).not.toContain('oftenAlike');
    expect(first({ ...facts, earlier })?.causes[0]?.reasons).toContain('oftenAlike');
  });

  it('is a sign turned where others like it go the other way', () => {
    const turned = { ...phone, amount: 5_800 };
    const earlier = [{ ...phone, date: '2026-01-14' }];
    expect(first(known([...without('phone'), turned], { earlier }))).toMatchObject({
      causes: [{ kind: 'signTurned', amount: -11_600, lineIds: ['phone'], instead: -5_800 }],
    });
  });

  it('is two digits swapped, back to what is usual', () => {
    const swapped = { ...phone, amount: -8_500 };
    const earlier = [{ ...phone, date: '2026-01-14' }];
    expect(first(known([...without('phone'), swapped], { earlier }))).toMatchObject({
      causes: [{ kind: 'digitsSwapped', amount: 2_700, lineIds: ['phone'], instead: -5_800 }],
    });
  });

  it('is a line missing where the bank’s balances break', () => {
    let balance = 100_000;
    const running = lines.map((each) => {
      balance += each.amount;
      return { ...each, balance };
    });
    const ours = running.filter(({ id }) => id !== 'freight');
    expect(first(known(ours))).toMatchObject({
      causes: [{ kind: 'lineMissing', amount: -3_860, from: '2026-02-18', to: '2026-02-24' }],
    });
  });

  it('is a payment missing that came every month', () => {
    const earlier = [-92, -61, -31, 0].map((days) => ({
      ...phone,
      date: addDays('2026-01-14', days),
    }));
    expect(first(known(without('phone'), { earlier }))).toMatchObject({
      causes: [{ kind: 'lineMissing', amount: -5_800, reasons: ['usualPayment'] }],
    });
  });

  it('is a line that is kept out', () => {
    const [tiles] = lines.filter(({ id }) => id === 'tiles');
    expect(first(known(without('tiles'), { keptOut: tiles ? [tiles] : [] }))).toMatchObject({
      causes: [{ kind: 'keptOut', amount: -11_200, lineIds: ['tiles'] }],
    });
  });

  it('is one line over the edge, or a few that add up', () => {
    const late = line('late', 28, -2_300, 'PARCEL LOCKER 77');
    const later = line('later', 28, -3_500, 'SALTMARSH PITCH');
    expect(first(known([...lines, late]))).toMatchObject({
      causes: [{ kind: 'overEdge', amount: 2_300, lineIds: ['late'], move: 'toNext' }],
    });
    expect(first(known([...lines, late, later]))).toMatchObject({
      causes: [{ kind: 'overEdge', amount: 5_800, move: 'toNext' }],
    });
    const next = line('next', 29, -480, 'COBBLE CAFE 2');
    expect(first(known(without('cafe'), { after: [next] }))).toMatchObject({
      causes: [{ kind: 'overEdge', amount: -480, lineIds: ['next'], move: 'fromNext' }],
    });
  });

  it('is a line that was announced and then booked with another amount', () => {
    const held = line('held', 20, -3_500, 'TIDEMARK FREIGHT 20297');
    expect(first(known([...lines, held]))).toMatchObject({
      causes: [{ kind: 'announcedBooked', amount: 3_500, lineIds: ['held', 'freight'] }],
    });
  });

  it('is the opening where the statement states another', () => {
    expect(first(known(lines, { opening: 98_000, statedOpening: 100_000 }))).toMatchObject({
      likelihood: 'very likely',
      causes: [{ kind: 'opening', amount: 2_000, instead: 100_000 }],
    });
  });

  it('is the closing balance where it was mistyped', () => {
    const right = 100_000 + sumOf(lines);
    const typed = { isClosingTyped: true };
    expect(first(known(lines, { ...typed, closing: -right }))).toMatchObject({
      causes: [{ kind: 'closingMistyped', instead: right }],
    });
    expect(right).toBe(104_410);
    expect(first(known(lines, { ...typed, closing: 140_410 }))).toMatchObject({
      causes: [{ kind: 'closingMistyped', amount: 36_000, instead: right }],
    });
  });

  it('is two causes together where no one does it', () => {
    const copy = { ...phone, id: 'copy', date: '2026-02-16' };
    const [tiles] = lines.filter(({ id }) => id === 'tiles');
    const facts = known([...without('tiles'), copy], { keptOut: tiles ? [tiles] : [] });
    const kinds = first(facts)?.causes.map(({ kind }) => kind);
    expect(kinds?.sort()).toEqual(['keptOut', 'sameTwice']);
    expect(first(facts)?.causes.reduce((sum, { amount }) => sum + amount, 0)).toBe(-5_400);
  });
});

describe('balances within a statement', () => {
  const opening = { date: '2026-01-31', amount: 1_000 };
  const day = (date: string, amount: number, balance: number) => ({ date, amount, balance });

  it('add up in the order of the file or the other way round', () => {
    const forward = [day('2026-02-02', -100, 900), day('2026-02-02', -50, 850)];
    const backward = [day('2026-02-02', -50, 850), day('2026-02-02', -100, 900)];
    for (const rows of [forward, backward]) {
      expect(checkBalances(rows, opening, { date: '2026-02-28', amount: 850 }).gaps).toEqual([]);
    }
  });

  it('break where a line is missing', () => {
    const rows = [day('2026-02-02', -100, 900), day('2026-02-09', -50, 750)];
    expect(checkBalances(rows, opening, { date: '2026-02-28', amount: 750 }).gaps).toEqual([
      { amount: -100, first: 1, end: 2, from: '2026-02-02', to: '2026-02-09' },
    ]);
  });
});
