import type { StepDone } from '@zubrell/contract/common';
import type { LaneCounts, ScopeProof } from '@zubrell/contract/desk';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import {
  type Client,
  type Harness,
  makeBooks,
  startHarness,
  type TestBooks,
} from '../../testing/harness.ts';

let harness: Harness;
let client: Client;
let books: TestBooks;
let path: string;
let till: string;

beforeAll(async () => {
  harness = await startHarness();
  client = await harness.signIn('Mo Oakes');
});
afterAll(() => harness.stop());
beforeEach(async () => {
  books = await makeBooks(client);
  path = `/api/books/${books.id}`;
  const made = await client.send<{ id: string }>('POST', `${path}/bank-accounts`, {
    name: 'Till float',
    kind: 'cash',
    bank: null,
    number: null,
  });
  till = `${path}/bank-accounts/${made.id}`;
  await client.send('POST', `${till}/opening`, { date: '2026-02-28', amount: 10_000 });
});

const write = (date: string, amount: number, description = 'MARKET TAKINGS') =>
  client.send<StepDone>('POST', `${till}/lines`, { date, amount, description, reference: null });
const count = (date: string, amount: number) =>
  client.send<StepDone>('POST', `${till}/balances`, { date, amount });
const undo = () => client.send('POST', `${path}/steps/undo`, { step: null, withLater: false });
const proof = async () => (await client.get<ScopeProof>(`${path}/proof`)).proof;
const lanes = () => client.get<LaneCounts>(`${path}/lanes`);

describe('cash by hand', () => {
  it('waits in the Desk, and a count proves it', async () => {
    expect(await write('2026-03-02', 4_400)).toMatchObject({
      words: 'Wrote a line of +44.00 in Till float by hand',
    });
    await write('2026-03-03', -1_200, 'POSTAGE');
    expect(await lanes()).toMatchObject({ blank: 2 });
    expect(await proof()).toMatchObject({ isStated: false, bank: 13_200 });
    await count('2026-03-03', 13_200);
    expect(await proof()).toMatchObject({ isStated: true, bank: 13_200, unexplained: 0 });
    await undo();
    expect(await proof()).toMatchObject({ isStated: false });
    await undo();
    expect(await lanes()).toMatchObject({ blank: 1 });
  });

  it('that was miscounted is shown as unexplained', async () => {
    await write('2026-03-02', 4_400);
    await count('2026-03-02', 14_000);
    expect(await proof()).toMatchObject({ unexplained: -400 });
  });

  it('is refused without an amount, without words, and in a closed period', async () => {
    await expect(write('2026-03-02', 0)).rejects.toThrow('LINE_NIL');
    await expect(write('2026-03-02', 100, ' ')).rejects.toThrow('say what it was');
    await client.send('PATCH', path, { lockDate: '2026-03-31' });
    await expect(write('2026-03-02', 100)).rejects.toThrow('PERIOD_CLOSED');
  });
});
