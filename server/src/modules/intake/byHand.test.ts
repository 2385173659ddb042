import type { StepDone } from '@zubrell/contract/common';
import { beforeEach, describe, expect, it } from 'vitest';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lanes, proof, undo } = scene;
let till: string;

beforeEach(async () => {
  const made = await scene.client.send<{ id: string }>('POST', `${scene.path}/bank-accounts`, {
    name: 'Till float',
    kind: 'cash',
    bank: null,
    number: null,
  });
  till = `${scene.path}/bank-accounts/${made.id}`;
  await scene.client.send('POST', `${till}/opening`, { date: '2026-02-28', amount: 10_000 });
});

const write = (date: string, amount: number, description = 'MARKET TAKINGS') =>
  scene.client.send<StepDone>('POST', `${till}/lines`, {
    date,
    amount,
    description,
    reference: null,
  });
const count = (date: string, amount: number) =>
  scene.client.send<StepDone>('POST', `${till}/balances`, { date, amount });

describe('cash by hand', () => {
  it('waits in the Desk, and a count proves it', async () => {
    expect(await write('2026-03-02', 4_400)).toMatchObject({
      words: 'Added a line of +44.00 to Till float by hand',
    });
    await write('2026-03-03', -1_200, 'POSTAGE');
    expect(await lanes()).toMatchObject({ blank: 1, check: 1 });
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

  it('is refused without an amount and without words, and late in a closed period', async () => {
    await expect(write('2026-03-02', 0)).rejects.toThrow('LINE_NIL');
    await expect(write('2026-03-02', 100, ' ')).rejects.toThrow('say what it was');
    await scene.client.send('PATCH', scene.path, { lockDate: '2026-03-31' });
    await write('2026-03-02', 100);
    expect(await scene.stacks('check')).toMatchObject([{ held: 'late' }]);
  });
});
