import { describe, expect, it } from 'vitest';
import { habitLine } from '../../testing/decided.ts';
import { aspectsOf, daysOf, textOf, wordingFeatures } from './features.ts';
import type { Example } from './memory.ts';
import { separatorsOf, sideOf } from './separators.ts';

/** A decided line: wording, amount, account, day of the month, bank account. */
type Made = readonly [text: string, amount: number, account: string, day?: string, bank?: string];

function examples(made: readonly Made[]): Example[] {
  return made.map(([text, amount, accountId, day = '03', bankAccountId = 'everyday'], at) => {
    const line = habitLine(text, amount, { date: `2026-03-${day}`, bankAccountId });
    return {
      id: `${at}`,
      label: 'somebody',
      position: at,
      accountId,
      payeeId: null,
      taxCodeId: null,
      weight: 1,
      ...aspectsOf(line, wordingFeatures(textOf(line))),
      wording: 0,
      day: daysOf(line.date),
      size: Math.log(Math.abs(amount) + 1),
    };
  });
}
const often = (count: number, ...made: readonly Made[]) =>
  examples(Array.from({ length: count }).flatMap(() => made));

describe('what tells accounts apart', () => {
  it('is a word', () => {
    const found = separatorsOf(
      often(5, ['TIDEMARK FRT', -900, 'freight'], ['TIDEMARK FRT IMPORT', -900, 'clay']),
    );
    expect(found[0]).toMatchObject({ kind: 'word', word: 'IMPORT' });
    expect(found[0]?.gain).toBeGreaterThan(0.8);
  });

  it('is each of several numbers, where each is pure though it tells little of all', () => {
    const made = Array.from({ length: 6 }, (_, week): readonly Made[] => [
      [`SETTLEMENT 40771902 REF ${70_001 + 17 * week}`, 900, 'shop', `0${week + 1}`],
      [`SETTLEMENT 40771933 REF ${71_002 + 13 * week}`, 900, 'web', `0${week + 1}`],
      [`SETTLEMENT 40772518 REF ${72_003 + 11 * week}`, 900, 'stall', `0${week + 1}`],
    ]).flat();
    const numbers = separatorsOf(examples(made)).flatMap((each) =>
      each.kind === 'number' && each.gain > 0.8 ? each.number : [],
    );
    expect(numbers.sort()).toEqual(['40771902', '40771933', '40772518']);
  });

  it('is the day of the week, or a round amount, once there is enough of it', () => {
    const week = [
      '02',
      '03',
      '04',
      '05',
      '06',
      '09',
      '10',
      '11',
      '12',
      '13',
      '16',
      '17',
      '18',
      '19',
    ];
    const byDay = week.map((day, at): Made => {
      const isEarly = at % 5 < 2;
      return ['HARROW', -900 - 37 * ((at * 7) % 11), isEarly ? 'rent' : 'clay', day];
    });
    expect(separatorsOf(examples(byDay))).toContainEqual(
      expect.objectContaining({ kind: 'weekday', from: 0, to: 1 }),
    );
    const byCents = week.map((day, at): Made => {
      const isRound = at % 2 === 0;
      const size = 1_000 + 100 * ((at * 7) % 11);
      return ['HARROW', -(isRound ? size : size + 49), isRound ? 'owner' : 'clay', day];
    });
    expect(separatorsOf(examples(byCents))[0]).toMatchObject({ kind: 'cents' });
  });

  it('is an amount, between the nearest of both', () => {
    const found = separatorsOf(often(5, ['STALL', -1_200, 'pitch'], ['STALL', -48_000, 'rent']));
    expect(found).toMatchObject([{ kind: 'amount', limit: 7_589 }]);
  });

  it('is no amount where it says hardly more than chance would, or little of many', () => {
    const kinds = (made: readonly Made[]) => separatorsOf(examples(made)).map(({ kind }) => kind);
    const sized = (accounts: string) =>
      [...accounts].map((account, at): Made => ['STALL', -1_000 - 100 * at, account]);
    expect(kinds(sized('aaabab'))).toEqual([]);
    expect(kinds(sized('aaabbb'))).toEqual(['amount']);
    // The six smallest are of one account, but so are half of all others.
    expect(kinds(sized(`aaaaaa${'ab'.repeat(30)}`))).toEqual([]);
    expect(kinds(sized(`${'a'.repeat(12)}${'bbba'.repeat(12)}`))).toContain('amount');
  });

  it('is the direction', () => {
    const found = separatorsOf(often(5, ['HARROW', -900, 'clay'], ['HARROW', 900, 'sales']));
    expect(found[0]).toMatchObject({ kind: 'direction' });
  });

  it('is the bank account', () => {
    const card = ['HARROW', -900, 'owner', '03', 'card'] as const;
    const found = separatorsOf(often(5, ['HARROW', -900, 'clay'], card));
    expect(found[0]).toMatchObject({ kind: 'bankAccount' });
  });

  it('is the day of the month, once there is enough of it', () => {
    const made: readonly Made[] = [
      ['HARROW', -900, 'rent', '02'],
      ['HARROW', -900, 'clay', '19'],
    ];
    expect(separatorsOf(often(3, ...made))).toEqual([]);
    const [day] = separatorsOf(often(6, ...made));
    expect(day).toMatchObject({ kind: 'day', limit: 2 });
    const on = (date: string) => aspectsOf(habitLine('', -900, { date }), wordingFeatures(''));
    expect(day && sideOf(day, on('2026-05-01'))).toBe(true);
    expect(day && sideOf(day, on('2026-05-03'))).toBe(false);
  });

  it('is nothing where nothing does, or too little was decided', () => {
    const mixed = often(6, ['HARROW', -900, 'clay'], ['HARROW', -900, 'owner']);
    expect(separatorsOf(mixed)).toEqual([]);
    expect(separatorsOf(often(1, ['A', -1, 'x'], ['B', -2, 'y']))).toEqual([]);
    expect(separatorsOf(often(9, ['HARROW', -900, 'clay']))).toEqual([]);
  });

  it('counts less where one of many words would do as well by chance', () => {
    const words = ['ASH', 'BAY', 'CLAY', 'DUN', 'ELM', 'FAWN', 'GLAZE', 'HAZE', 'INK', 'JADE'];
    // The same word tells the same of six decisions: alone, or beside nine others that tell nothing.
    const made = (others: readonly string[]) =>
      examples(
        Array.from({ length: 6 }, (_, at): Made => {
          const rest = others.filter((_word, place) => (place + at) % 3 > 0);
          const text = ['HARROW', ...(at < 3 ? ['KILN'] : []), ...rest].join(' ');
          return [text, -900, at < 3 ? 'firing' : 'repairs'];
        }),
      );
    const kiln = (others: readonly string[]) =>
      separatorsOf(made(others)).find((each) => each.kind === 'word' && each.word === 'KILN');
    expect(kiln([])?.beyond).toBeGreaterThan((kiln(words)?.beyond ?? 9) + 2);
    expect(kiln([])?.gain).toBeGreaterThan(kiln(words)?.gain ?? 1);
  });
});
