import { describe, expect, it } from 'vitest';
import { type Choice, matchingChoices } from './matchingChoices.ts';

const choices: readonly Choice[] = [
  { id: 'a', label: '1400 Stock in freight', hint: 'asset' },
  { id: 'b', label: '6010 Freight out', hint: 'expense', words: 'postage parcels' },
  { id: 'c', label: 'Café Löwe' },
  { id: 'd', label: 'Airfreight' },
];
const found = (typed: string) => matchingChoices(choices, typed).map(({ id }) => id);

describe('choices', () => {
  it('match by any of their words, code or kind, whole words first', () => {
    expect(found('freight')).toEqual(['a', 'b', 'd']);
    expect(found('out frei')).toEqual(['b']);
    expect(found('6010')).toEqual(['b']);
    expect(found('asset')).toEqual(['a']);
    expect(found('parc')).toEqual(['b']);
  });

  it('match without case and accents; all of them where nothing is typed', () => {
    expect(found('CAFE low')).toEqual(['c']);
    expect(found(' ')).toEqual(['a', 'b', 'c', 'd']);
    expect(found('zebra')).toEqual([]);
  });
});
