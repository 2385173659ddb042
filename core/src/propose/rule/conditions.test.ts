import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ruleLine, said, takesAll } from '../../testing/rules.ts';
import { plainWording } from '../../text/plainWording.ts';
import { holdsOf, looksLike, takesOf } from './conditions.ts';

const FREIGHT = ruleLine('CRD  PUR. Tidemark-Frt IMPORT 702', -9_600, {
  reference: 'Réf 88',
  payee: 'Tidemark Freight',
});
const holds = (condition: Parameters<typeof holdsOf>[0], line = FREIGHT) =>
  holdsOf(condition)(line);

describe('a condition on a text', () => {
  it.each([
    ['tidemark', true],
    ['TIDEMARK FRT', true],
    ['tide', false],
    ['frt  import', true],
    ['tidemark import', false],
    ['ref 88', true],
  ])('has “%s”: %s', (text, expected) => {
    expect(holds(said(text))).toBe(expected);
    expect(holds(said(text, { test: 'hasNot' }))).toBe(!expected);
  });

  it('compares the start, the end and the whole by whole words', () => {
    const description = { field: 'description' } as const;
    expect(holds(said('crd pur', { ...description, test: 'startsWith' }))).toBe(true);
    expect(holds(said('cr', { ...description, test: 'startsWith' }))).toBe(false);
    expect(holds(said('702', { ...description, test: 'endsWith' }))).toBe(true);
    expect(holds(said('02', { ...description, test: 'endsWith' }))).toBe(false);
    const all = { ...description, test: 'is' } as const;
    expect(holds(said('crd pur tidemark frt import 702', all))).toBe(true);
    expect(holds(said('crd pur tidemark frt', all))).toBe(false);
  });

  it('looks at one field only, and knows an empty one', () => {
    expect(holds(said('import', { field: 'reference' }))).toBe(false);
    expect(holds(said('', { field: 'chequeNumber', test: 'isEmpty' }))).toBe(true);
    expect(holds(said('', { field: 'reference', test: 'isEmpty' }))).toBe(false);
  });

  it('compares characters where it is to be exact', () => {
    expect(holds(said('Tidemark-Frt', { isExact: true }))).toBe(true);
    expect(holds(said('tidemark-frt', { isExact: true }))).toBe(false);
    expect(holds(said('idemark', { isExact: true }))).toBe(true);
  });

  it.each([
    ['tide*', true],
    ['tide* frt', true],
    ['tidemark *port', true],
    ['7?2', true],
    ['7?', false],
    ['*mark', true],
    ['frt*702', true],
    ['imp?rt', true],
    ['imp??rt', false],
  ])('looks like “%s”: %s', (text, expected) => {
    expect(holds(said(text, { test: 'looksLike', field: 'description' }))).toBe(expected);
  });
});

describe('wildcards', () => {
  it('are like the text they were made of', () => {
    const text = fc.string({ maxLength: 12 }).map((each) => each.replace(/[*?]/g, ''));
    fc.assert(
      fc.property(text, text, text, (a, b, c) => {
        expect(looksLike(`${a}${b}${c}`, `${a}*${c}`)).toBe(true);
        expect(looksLike(`${a}${b}${c}`, `${a}${'?'.repeat(b.length)}${c}`)).toBe(true);
        expect(looksLike(`${a}x`, `${a}`)).toBe(false);
      }),
    );
  });

  it('take no long time over many of them', () => {
    expect(looksLike('A'.repeat(2_000), `${'*A'.repeat(200)}B`)).toBe(false);
  });
});

describe('other conditions', () => {
  it('take amounts by size', () => {
    expect(holds({ kind: 'amount', from: 9_600, to: 9_600 })).toBe(true);
    expect(holds({ kind: 'amount', from: null, to: 9_599 })).toBe(false);
    expect(holds({ kind: 'amount', from: 9_601, to: null })).toBe(false);
  });

  it('take dates and days of the month, also over its end', () => {
    expect(holds({ kind: 'date', from: '2026-03-12', to: null })).toBe(true);
    expect(holds({ kind: 'date', from: null, to: '2026-03-11' })).toBe(false);
    expect(holds({ kind: 'day', from: 10, to: 12 })).toBe(true);
    expect(holds({ kind: 'day', from: 28, to: 3 })).toBe(false);
    expect(holds({ kind: 'day', from: 28, to: 12 })).toBe(true);
  });

  it('hold in groups: all of them, or any', () => {
    const group = {
      kind: 'group',
      match: 'any',
      conditions: [said('harrow'), said('import')],
    } as const;
    expect(takesOf(takesAll([said('tidemark'), group]))(FREIGHT)).toBe(true);
    expect(takesOf(takesAll([said('tidemark'), { ...group, match: 'all' }]))(FREIGHT)).toBe(false);
    expect(takesOf(takesAll([said('harrow'), group], { match: 'any' }))(FREIGHT)).toBe(true);
  });

  it('take a direction and any set of bank accounts', () => {
    const takes = takesAll([said('tidemark')]);
    expect(takesOf({ ...takes, direction: 'in' })(FREIGHT)).toBe(false);
    expect(takesOf({ ...takes, bankAccountIds: ['card', 'everyday'] })(FREIGHT)).toBe(true);
    expect(takesOf({ ...takes, bankAccountIds: ['card'] })(FREIGHT)).toBe(false);
  });

  it('do not mind case, accents, punctuation and spaces', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 20 }), (text) => {
        fc.pre(plainWording(text) !== '');
        const line = ruleLine(`Before ${text}. After`);
        expect(holds(said(text.toLowerCase()), line)).toBe(holds(said(plainWording(text)), line));
        expect(holds(said(plainWording(text)), line)).toBe(true);
      }),
      { examples: [['ẞ'], ['straße'], ['İI ı'], ['ΟΔΟΣ ς'], ['ﬁn'], ['ＡＢ']] },
    );
  });
});
