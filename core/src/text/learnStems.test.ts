import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { learnStems, type SeenStem } from './learnStems.ts';

const seen = (stem: string, count = 1, change: Partial<SeenStem> = {}): SeenStem => ({
  stem,
  count,
  payeeIds: [],
  current: stem,
  ...change,
});
const TOWNS = ['LYNMO', 'GARRAN', 'ST HESTER'];
const HEADS = ['LINNET POST', 'STAGWELL FUEL', 'COBBLE CAFE', 'TIDEMARK FRT', 'PENHALLOW CLAY'];
const withTowns = HEADS.flatMap((head) => TOWNS.map((town) => seen(`${head} ${town}`)));
const learn = (...stems: readonly SeenStem[]) => learnStems([...withTowns, ...stems]);

describe('learned stems', () => {
  it('leave towns out that follow many payees', () => {
    const learned = learn();
    for (const head of HEADS) {
      for (const town of TOWNS) expect(learned.get(`${head} ${town}`)).toBe(head);
    }
  });

  it('keep endings that are one payee’s own, and payees with the same first word', () => {
    const learned = learn(seen('HARROW TABLE SHOP'), seen('HARROW GAS'), seen('HARROW WATER'));
    expect(learned.get('HARROW GAS')).toBe('HARROW GAS');
    expect(learned.get('HARROW TABLE SHOP')).toBe('HARROW TABLE SHOP');
  });

  it('keep stems apart that were decided to be of different payees', () => {
    const learned = learn(
      seen('ORRIN WORKS LYNMO', 3, { payeeIds: ['a'] }),
      seen('ORRIN WORKS GARRAN', 3, { payeeIds: ['b'] }),
    );
    expect(learned.get('ORRIN WORKS LYNMO')).toBe('ORRIN WORKS LYNMO');
    expect(learned.get('ORRIN WORKS GARRAN')).toBe('ORRIN WORKS GARRAN');
  });

  it.each([
    ['ROOKHOPE TIMB', 'ROOKHOPE TIMBER YARD', 'a word that was cut'],
    ['ROOKHOPETIMBERYARD', 'ROOKHOPE TIMBER YARD', 'spaces that were lost'],
    ['TIMBER YARD ROOKHOPE', 'ROOKHOPE TIMBER YARD', 'another order'],
    ['ROOKHOPE TIMBR YARD', 'ROOKHOPE TIMBER YARD', 'a letter that is missing'],
    ['ROOKHOPE TIMBES YARD', 'ROOKHOPE TIMBER YARD', 'a letter that is wrong'],
  ])('put %s with %s: %s', (odd, usual) => {
    const learned = learn(seen(odd), seen(usual, 20));
    expect(learned.get(odd)).toBe(learned.get(usual));
  });

  it.each([
    ['ROOKHOPE', 'ROOKHOPE TIMBER YARD', 'between two words is no cut'],
    ['EAST BAY SUPPLIES', 'EAST DAY SUPPLIES', 'short words are words of their own'],
    ['OREN AB', 'OREN ABBEY', 'too short to tell'],
  ])('keep %s and %s apart: %s', (odd, usual) => {
    const learned = learn(seen(odd), seen(usual, 20));
    expect(learned.get(odd)).not.toBe(learned.get(usual));
  });

  it('do not take a cut for one where it could be of two payees', () => {
    const learned = learn(
      seen('HARROWGAT'),
      seen('HARROWGATE TABLE', 9),
      seen('HARROWGATTE BELL', 9),
    );
    expect(learned.get('HARROWGAT')).toBe('HARROWGAT');
  });

  it('keep the name that most lines have already', () => {
    const known = TOWNS.map((town) => seen(`LINNET POST ${town}`, 5, { current: 'LINNET' }));
    const others = withTowns.filter(({ stem }) => !stem.startsWith('LINNET'));
    const learned = learnStems([...others, ...known, seen('LINNET POST UPPER')]);
    expect(learned.get('LINNET POST LYNMO')).toBe('LINNET');
  });

  it('name every stem, and never put two payees together, whatever there is', () => {
    const word = fc.constantFrom(
      'ORRIN',
      'BELL',
      'BELLS',
      'TIMBER',
      'TIMBERYARD',
      'LYNMO',
      'GARRAN',
      'YARD',
    );
    const stem = fc.array(word, { minLength: 1, maxLength: 4 }).map((words) => words.join(' '));
    const one = fc.record({
      stem,
      count: fc.integer({ min: 1, max: 9 }),
      payeeIds: fc.subarray(['a', 'b'], { maxLength: 1 }),
    });
    fc.assert(
      fc.property(fc.uniqueArray(one, { selector: (each) => each.stem, maxLength: 30 }), (all) => {
        const stems = all.map((each) => ({ ...each, current: each.stem }));
        const learned = learnStems(stems);
        expect(learned.size).toBe(stems.length);
        const payees = new Map<string, Set<string>>();
        for (const { stem: own, payeeIds } of stems) {
          const name = learned.get(own) ?? '';
          const known = payees.get(name) ?? new Set();
          for (const id of payeeIds) known.add(id);
          payees.set(name, known);
        }
        for (const known of payees.values()) expect(known.size).toBeLessThan(2);
      }),
      { numRuns: 1_000 },
    );
  });
});
