import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { stackParts } from './stackParts.ts';

/** So many lines of a wording, one a day. */
function lines(count: number, wording: (at: number) => string) {
  return Array.from({ length: count }, (_, at) => ({
    plain: wording(at),
    date: `2026-03-${String((at % 28) + 1).padStart(2, '0')}`,
  }));
}

describe('stackParts', () => {
  it('finds the numbers of two terminals and the word before them', () => {
    const stack = [
      ...lines(120, (at) => `CARD TAKINGS TERMINAL 40117730 BATCH ${5000 + at}`),
      ...lines(78, (at) => `CARD TAKINGS TERMINAL 40117748 BATCH ${7000 + at}`),
    ];
    expect(stackParts(stack)).toEqual({
      before: 'TERMINAL',
      parts: [
        { word: '40117730', count: 120 },
        { word: '40117748', count: 78 },
      ],
    });
  });

  it('finds a last word whatever stands before it', () => {
    const stack = [
      ...lines(9, (at) => `GLAZEWORKS ${at + 100}A IMPORT`),
      ...lines(5, (at) => `GLAZEWORKS ${at + 100}B STUDIO`),
    ];
    expect(stackParts(stack)).toEqual({
      before: null,
      parts: [
        { word: 'IMPORT', count: 9 },
        { word: 'STUDIO', count: 5 },
      ],
    });
  });

  it('says nothing where all lines have the word, or where it is the day, the month or the year', () => {
    const stack = lines(
      24,
      (at) => `RENT HARBOUR 4471 ${at + 1} ${['JAN', 'FEB'][at % 2]} 202${at % 2}`,
    );
    expect(stackParts(stack)).toBeNull();
  });

  it('says nothing of numbers that never come back, or that came on one day', () => {
    expect(stackParts(lines(40, (at) => `LINNET POST ${90_000 + at}`))).toBeNull();
    const oneDay = [
      ...lines(6, () => 'LINNET POST 4471').map((line) => ({ ...line, date: '2026-03-02' })),
      ...lines(6, () => 'LINNET POST 4488').map((line) => ({ ...line, date: '2026-03-03' })),
    ];
    expect(stackParts(oneDay)).toBeNull();
  });

  it('says nothing where the parts are few of the lines', () => {
    const stack = [
      ...lines(3, () => 'LINNET POST 4471'),
      ...lines(3, () => 'LINNET POST 4488'),
      ...lines(30, (at) => `LINNET POST ${90_000 + at}`),
    ];
    expect(stackParts(stack)).toBeNull();
  });

  it('passes over words that many payees have', () => {
    const stack = [
      ...lines(9, (at) => `BRINDLE FOODS ${at + 100}A GARRAN`),
      ...lines(9, (at) => `BRINDLE FOODS ${at + 100}A LYNMO`),
    ];
    expect(stackParts(stack)?.parts).toHaveLength(2);
    expect(stackParts(stack, new Set(['GARRAN', 'LYNMO']))).toBeNull();
  });

  it('never puts a line into two parts, and counts all lines that have the word', () => {
    const words = fc.constantFrom('A1', 'B2', '4471', '4488', 'IMPORT', 'STUDIO', 'CARD', '03');
    const wording = fc.array(words, { minLength: 1, maxLength: 5 }).map((all) => all.join(' '));
    const line = fc.record({ plain: wording, date: fc.constantFrom('2026-03-01', '2026-03-02') });
    fc.assert(
      fc.property(fc.array(line, { maxLength: 40 }), (stack) => {
        const found = stackParts(stack);
        if (found === null) return;
        const total = found.parts.reduce((sum, { count }) => sum + count, 0);
        expect(total).toBeLessThanOrEqual(stack.length);
        for (const { word, count } of found.parts) {
          const having = stack.filter(({ plain }) => ` ${plain} `.includes(` ${word} `));
          expect(count).toBe(having.length);
        }
      }),
    );
  });
});
