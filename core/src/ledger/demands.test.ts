import { describe, expect, it } from 'vitest';
import { wholeLineCoding } from './coding.ts';
import { type Demands, demandedWords, missingFields } from './demands.ts';

const demands: Demands = { expense: ['taxCodeId', 'payeeId', 'costCentreId'], income: ['note'] };
const typeOf = (id: string) =>
  id === 'sales' ? 'income' : id === 'drawings' ? 'equity' : 'expense';

describe('what books demand of a coding', () => {
  it('depends on the type of the account', () => {
    expect(missingFields(demands, wholeLineCoding('clay', null, null), typeOf)).toEqual([
      'payeeId',
      'taxCodeId',
      'costCentreId',
    ]);
    expect(missingFields(demands, wholeLineCoding('sales', null, null), typeOf)).toEqual(['note']);
    expect(missingFields(demands, wholeLineCoding('drawings', null, null), typeOf)).toEqual([]);
    expect(missingFields(demands, wholeLineCoding('sales', null, null, 'fair'), typeOf)).toEqual(
      [],
    );
  });

  it('is demanded of each part of a split', () => {
    const whole = wholeLineCoding('clay', 'penhallow', '20');
    const [part] = whole.parts;
    if (!part) throw new Error('a coding has a part');
    const complete = { ...part, costCentreId: 'studio' };
    const coding = { ...whole, parts: [complete, { ...complete, taxCodeId: null }] };
    expect(missingFields(demands, coding, typeOf)).toEqual(['taxCodeId']);
  });

  it('is said in words', () => {
    expect(demandedWords(['payeeId'])).toBe('a payee');
    expect(demandedWords(['payeeId', 'taxCodeId', 'note'])).toBe('a payee, a tax code and a note');
  });
});
