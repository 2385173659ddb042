import { describe, expect, it } from 'vitest';
import { starterAccounts } from '../../ledger/starterBooks.ts';
import { laneOf } from '../proposal.ts';
import { doubtWords, groundWords } from '../words.ts';
import { proposeFromStarter } from './proposeFromStarter.ts';
import { accountForTrade, type TradeFacts, tradeOf } from './trades.ts';

const accounts = starterAccounts.map((account) => ({ ...account, id: account.code }));
const books = {
  accountForTrade: (trade: Parameters<typeof accountForTrade>[0]) =>
    accountForTrade(trade, accounts),
};
const line = (description: string, change: Partial<TradeFacts> = {}): TradeFacts => ({
  description,
  amount: -4_850,
  reference: null,
  payee: null,
  category: null,
  ...change,
});
const accountOf = (facts: TradeFacts) => {
  return proposeFromStarter(facts, books)?.coding.parts[0]?.accountId ?? null;
};

describe('starter knowledge', () => {
  it.each([
    ['KESTREL INSURANCE 4471', '6060'],
    ['MONTHLY FEE CURRENT ACCOUNT', '6900'],
    ['Miete April', '6040'],
    ['STAGWELL FUEL GARRAN', '6080'],
    ['ORRIN MOBILE PHONE 8812', '6030'],
    ['HALLAM COURIER', '6010'],
    ['PENHALLOW CLAY', null],
  ])('%s goes to %s', (description, account) => {
    expect(accountOf(line(description))).toBe(account);
  });

  it.each([
    ['5541', '6080'],
    ['3501', '6080'],
    ['5943', '6070'],
    ['6300', '6060'],
    ['0000', null],
    ['FUEL', null],
  ])('merchant category %s goes to %s', (category, account) => {
    expect(accountOf(line('STAGWELL', { category }))).toBe(account);
  });

  it('believes the category rather than a word', () => {
    expect(tradeOf(line('GAS STATION 12', { category: '5542' }))?.trade.name).toBe(
      'fuel and travel',
    );
  });

  it('takes interest that comes in as income, and never money in as a cost', () => {
    expect(accountOf(line('INTEREST CREDIT', { amount: 312 }))).toBe('4090');
    expect(accountOf(line('INSURANCE REFUND', { amount: 4_850 }))).toBeNull();
  });

  it('waits in Check, and says on what it rests', () => {
    const byCode = proposeFromStarter(line('STAGWELL', { category: '5541' }), books);
    expect(laneOf(byCode)).toBe('check');
    expect(byCode?.grounds.map((ground) => groundWords(ground, () => ''))).toEqual([
      'The bank’s merchant category 5541 says fuel and travel.',
    ]);
    const byWord = proposeFromStarter(line('KESTREL INSURANCE'), books);
    expect(byWord?.grounds.map((ground) => groundWords(ground, () => ''))).toEqual([
      'The wording says INSURANCE.',
    ]);
    expect(byWord?.doubts.map((doubt) => doubtWords(doubt, () => ''))).toEqual([
      'Suggested by general knowledge only: nothing in these books supports it yet.',
    ]);
  });

  it('proposes nothing where the chart has no such account', () => {
    const bare = accounts.filter(({ code }) => code !== '6060');
    const trade = tradeOf(line('KESTREL INSURANCE'))?.trade;
    expect(trade && accountForTrade(trade, bare)).toBeNull();
  });
});
