import type { StepDone } from '@zubrell/contract/common';
import type { LineSheet } from '@zubrell/contract/desk';
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
