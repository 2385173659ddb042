import type { Made, StepDone } from '@zubrell/contract/common';
import type { LineSheet } from '@zubrell/contract/desk';
import type { HolderSpending } from '@zubrell/core/closing/cards';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let card: string;
const everyday = () => scene.books.bankAccountId;

const CYCLE = { kind: 'day', day: 8 };
const MARCH = '2026-03-08';
/** Ends on the cycle's last day at 482.10 owed. */
const FILE = `Booked,Details,Amount,Balance,Card number,Cardholder
2026-02-11,KILN SHELVES,-300.00,-300.00,5581 7000 0000 0916,M OAKES
2026-02-19,STAGWELL FUEL,-192.10,-492.10,5581 7000 0000 1724,I VARGA
2026-03-08,STAGWELL FUEL,10.00,-482.10,5581 7000 0000 1724,I VARGA
`;

const cycle = (value: object = CYCLE) =>
  scene.client.send<StepDone>('PUT', `${mo.path}/bank-accounts/${card}/cycle`, { cycle: value });
const pay = (date: string, amount: number, text = 'DIRECT DEBIT 8812') =>
  mo.addLine(everyday(), date, amount, text);
const sheet = (id: string) => scene.client.get<LineSheet>(`${mo.path}/lines/${id}`);
const proposed = async (id: string) => (await sheet(id)).proposal;

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  card = (await mo.bankAccount('Studio card', null, 'card')).id;
  await cycle();
  await mo.opening(card, '2026-02-08', 0);
  await mo.opening(everyday(), '2026-01-31', 500_000);
});
const keep = (file = FILE) =>
  scene.books.keep('card.csv', file, { bankAccountId: card, withOpening: false });

describe('cardholders', () => {
  it('are read from the file, a name before a number, and shown on lines and statements', async () => {
    await keep();
    const { rows } = await mo.statement(card, MARCH);
    expect(rows.map(({ cardholder }) => cardholder)).toEqual(['M OAKES', 'I VARGA', 'I VARGA']);
    expect((await sheet(rows[0]?.id ?? '')).cardholder).toBe('M OAKES');
  });

  it('are the end of the card’s number where no name is beside it', async () => {
    await keep(FILE.replaceAll(/,(Cardholder|M OAKES|I VARGA)/g, ''));
    const { rows } = await mo.statement(card, MARCH);
    expect(rows.map(({ cardholder }) => cardholder)).toEqual(['•• 0916', '•• 1724', '•• 1724']);
  });

  it('are added up by holder, without what is kept out', async () => {
    await keep();
    const path = `${mo.path}/bank-accounts/${card}/statements/${MARCH}`;
    const holders = async () =>
      (await scene.client.get<{ holders: HolderSpending[] }>(`${path}/holders`)).holders;
    expect(await mo.statement(card, MARCH)).toMatchObject({ hasHolders: true });
    expect(await holders()).toEqual([
      { cardholder: 'M OAKES', count: 1, spent: 30_000, refunded: 0 },
      { cardholder: 'I VARGA', count: 2, spent: 19_210, refunded: 1_000 },
    ]);
    // The same line again, in a file without names: it is kept out as a second copy.
    const again = await mo.addLine(card, '2026-02-11', -30_000, 'KILN SHELVES COPY');
    const { rows } = await mo.statement(card, MARCH);
    const first = rows.find(({ cardholder }) => cardholder === 'M OAKES')?.id ?? '';
    await mo.exclude([again.id], 'secondCopy', { [again.id]: first });
    expect((await holders()).map(({ count }) => count)).toEqual([1, 2]);
    expect(await mo.statement(everyday(), '2026-02-28')).toMatchObject({ hasHolders: false });
  });

  it('are in the report by the names that the books gave them, and merged payees by theirs', async () => {
    await keep();
    await scene.client.send('PUT', `${mo.path}/bank-accounts/${card}/holders`, {
      holderNames: { 'I VARGA': 'Ines Varga' },
    });
    const payee = (name: string) =>
      scene.client.send<Made>('POST', `${mo.path}/payees`, { name, kind: 'supplier' });
    const [old, kept] = [await payee('Stagwel'), await payee('Stagwell Fuel')];
    const { rows } = await mo.statement(card, MARCH);
    const fuel = rows.filter(({ text }) => text === 'STAGWELL FUEL').map(({ id }) => id);
    const freight = await mo.accountId('6010');
    await mo.post(fuel, { ...mo.codingTo(freight), payeeId: old.id });
    await scene.client.send('POST', `${mo.path}/payees/${old.id}/merge`, { into: kept.id });
    const answer = await scene.harness.app.inject({
      url: `${mo.path}/bank-accounts/${card}/statements/${MARCH}/report?as=csv`,
      headers: { cookie: scene.client.cookie },
    });
    expect(answer.headers['content-type']).toBe('text/csv; charset=utf-8');
    const lines = answer.body.split('\r\n');
    expect(lines).toContain('Bank account,Studio card');
    expect(lines).toContain(
      '2026-02-19,2026-02-19,STAGWELL FUEL,Ines Varga,Stagwell Fuel,6010 Freight out,posted,-192.10,-492.10',
    );
    expect(lines).toContain('2026-02-11,2026-02-11,KILN SHELVES,M OAKES,,,open,-300.00,-300.00');
  });

  it('have names of the books’ own, as one step that is undone', async () => {
    await keep();
    const names = { 'I VARGA': 'Ines Varga' };
    const path = `${mo.path}/bank-accounts/${card}/holders`;
    const { step } = await scene.client.send<StepDone>('PUT', path, { holderNames: names });
    const shown = async () =>
      (await mo.setup()).bankAccounts.find(({ id }) => id === card)?.holderNames;
    expect(await shown()).toEqual(names);
    await cycle({ kind: 'month' });
    expect(await shown()).toEqual(names);
    await mo.undo(step);
    expect(await shown()).toEqual({});
    await expect(
      scene.client.send('PUT', path, { holderNames: { 'I VARGA': ' ' } }),
    ).rejects.toThrow('give the cardholder a name');
  });
});

describe('the payment of a card’s statement', () => {
  it('is proposed as a transfer, whatever its wording says', async () => {
    await keep();
    const { id } = await pay('2026-03-20', -48_210);
    const ledger = (await mo.setup()).bankAccounts.find((bank) => bank.id === card)?.accountId;
    expect(await proposed(id)).toMatchObject({
      source: 'transfer',
      coding: { parts: [{ accountId: ledger }] },
      grounds: [{ kind: 'paysCard', bankAccountId: card, to: MARCH }],
      doubts: [{ kind: 'otherSideMissing' }],
    });
    const other = await pay('2026-03-20', -48_211, 'SOMETHING ELSE');
    expect((await proposed(other.id))?.source).not.toBe('transfer');
  });

  it('is found when the card’s file or its typed balance comes later', async () => {
    const { id } = await pay('2026-03-20', -48_210);
    expect(await proposed(id)).toBeNull();
    await keep();
    expect(await proposed(id)).toMatchObject({ grounds: [{ kind: 'paysCard' }] });
    const typed = await mo.closingBalance(card, MARCH, -50_000);
    expect(await proposed(id)).toBeNull();
    await mo.undo(typed.step);
    expect(await proposed(id)).toMatchObject({ grounds: [{ kind: 'paysCard' }] });
  });

  it('is shown on the statement: due, an open line of the amount, and paid once it is booked', async () => {
    await keep();
    const payment = async () => (await mo.statement(card, MARCH)).payment;
    expect(await payment()).toEqual({ due: 48_210, paid: null });
    const { id } = await pay('2026-03-20', -48_210);
    const paid = { date: '2026-03-20', lineId: id, bankAccountId: everyday() };
    expect(await payment()).toEqual({ due: 48_210, paid: { ...paid, isOpen: true } });
    const { accountId = '' } =
      (await mo.setup()).bankAccounts.find((bank) => bank.id === card) ?? {};
    await mo.post([id], mo.codingTo(accountId));
    expect(await payment()).toEqual({ due: 48_210, paid: { ...paid, isOpen: false } });
    await mo.recode([id], {
      accountId: await mo.accountId('6010'),
      taxCodeId: null,
      payeeId: null,
    });
    expect(await payment()).toEqual({ due: 48_210, paid: null });
  });

  it('is nothing for an account that is no card', async () => {
    await mo.addLine(everyday(), '2026-02-03', -600_000, 'KILN');
    await mo.closingBalance(everyday(), '2026-02-28', -100_000);
    expect((await mo.statement(everyday(), '2026-02-28')).payment).toBeNull();
  });
});
