import { describe, expect, it } from 'vitest';
import { wordingFeatures } from '../habit/features.ts';
import { groundWords } from '../words.ts';
import { makeElsewhere, type OtherHabit, type OwnAccount } from './elsewhere.ts';
import { matchAccounts, matchAll, type UsedAccount } from './matchAccounts.ts';

const used = (
  id: string,
  name: string,
  more: Partial<Omit<UsedAccount, 'payees'>> & { payees?: readonly string[] } = {},
): UsedAccount => ({
  id,
  name,
  purpose: '',
  type: 'expense',
  ...more,
  payees: new Set(more.payees ?? []),
});

const OURS = [
  used('freight', '6010 Freight out', { purpose: 'carriage, couriers, postage' }),
  used('fuel', '6030 Fuel and travel'),
  used('rent', '6100 Kiln hire and rent'),
  used('sales', '4000 Freight charged on', { type: 'income' }),
];

describe('accounts of other charts', () => {
  it.each([
    ['the same name, whatever its number', used('x', '7100 Freight out'), 'freight'],
    ['a word of the name, in one or many', used('x', 'Rents'), 'rent'],
    ['a word for what goes there', used('x', 'Carriage'), 'freight'],
    ['the same trade', used('x', 'Petrol', { purpose: 'fuel' }), 'fuel'],
    ['never another type', used('x', '4100 Freight charged on', { type: 'income' }), 'sales'],
  ])('are matched by %s', (_how, theirs, ours) => {
    expect(matchAccounts([theirs], OURS).get('x')).toBe(ours);
  });

  it('are not matched by a number alone, unless the charts are numbered alike', () => {
    const numbered = (ids: readonly string[]) => ids.map((id) => used(id, id));
    expect(matchAccounts(numbered(['6010', '6020', '6030']), numbered(['6010', '8000']))).toEqual(
      new Map(),
    );
    const alike = numbered(['6010', '6020', '6030']);
    expect(matchAccounts(alike, alike).get('6010')).toBe('6010');
  });

  it('are matched by payees that both have', () => {
    const payees = ['TIDEMARK', 'LINNET POST'];
    const theirs = used('x', 'Van and man', { payees });
    expect(matchAccounts([theirs], [used('a', 'Outbound', { payees })]).get('x')).toBe('a');
    expect(matchAccounts([theirs], [used('a', 'Outbound')]).size).toBe(0);
  });

  it('are matched through a third chart, but not where two are about as likely', () => {
    const payees = ['TIDEMARK', 'LINNET POST'];
    const named = used('named', 'Freight', { payees });
    const odd = used('odd', 'Van and man', { payees });
    expect(matchAll([[named], [odd]], OURS).get('odd')).toBe('freight');
    const asLikely = used('asLikely', 'Rent', { payees });
    expect(matchAll([[named], [odd], [asLikely]], OURS).has('odd')).toBe(false);
  });
});

describe('what other books say', () => {
  const ours: readonly OwnAccount[] = OURS.map((account) => ({ ...account, payees: [] }));
  const habit = (book: number, name: string, more: Partial<OtherHabit> = {}): OtherHabit => ({
    book,
    payee: 'Tidemark Freight',
    wording: 'TIDEMARK FREIGHT',
    isOut: true,
    account: { id: `${book}|${name}`, name, purpose: '', type: 'expense' },
    times: 3,
    ...more,
  });
  const others = [habit(1, 'Freight'), habit(2, 'Carriage'), habit(3, 'Rent')];
  const ask = (habits: readonly OtherHabit[], wording: string, isOut = true) =>
    makeElsewhere(habits, ours)(isOut, wordingFeatures(wording));

  it('is the account that most of them have it on, with how many', () => {
    const said = ask(others, 'CRD PUR TIDEMARK FREIGHT 20318 GARRAN');
    expect(said).toEqual({ accountId: 'freight', books: 2, of: 3 });
    expect(groundWords({ kind: 'otherBooks', ...(said ?? never()) }, () => 'Freight out')).toBe(
      'In 2 of your other books: Freight out. 1 has it otherwise.',
    );
  });

  it('is nothing for payees they do not know, or know the other way round', () => {
    expect(ask(others, 'PENHALLOW CLAY SUPPLIES')).toBeNull();
    expect(ask(others, 'TIDEMARK FREIGHT', false)).toBeNull();
    expect(ask([], 'TIDEMARK FREIGHT')).toBeNull();
  });

  it('is nothing where none of these accounts is like theirs', () => {
    expect(ask([habit(1, 'Wax and wicks')], 'TIDEMARK FREIGHT')).toBeNull();
  });
});

function never(): never {
  throw new Error('nothing was said');
}
