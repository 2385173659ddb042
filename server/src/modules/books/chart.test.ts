import type { StepDone } from '@zubrell/contract/common';
import type { Imported } from '@zubrell/contract/ledger';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
beforeEach(() => {
  mo = bookkeeper(scene.client, scene.books.id);
});

const change = async (code: string, wanted: object) =>
  scene.client.send<StepDone>('PATCH', `${mo.path}/accounts/${await mo.accountId(code)}`, wanted);
const account = async (code: string) =>
  (await mo.setup()).accounts.find((each) => each.code === code);
const take = (text: string) =>
  scene.client.send<Imported>('POST', `${mo.path}/accounts/import`, { text });

describe('an account in the chart', () => {
  it('is renumbered and moved below another, with its history, and back by undo', async () => {
    const freight = (await account('6010'))?.id ?? '';
    const { id } = await mo.addLine(scene.books.bankAccountId, '2026-03-03', -4_850, 'TIDEMARK');
    await mo.post([id], mo.codingTo(freight));
    const { step, words } = await change('6010', { code: '5100' });
    expect(words).toBe('Renumbered account 6010 Freight out to 5100');
    expect(await mo.balance('5100')).toBe(4_850);
    const moved = await change('5100', { parentId: (await account('5000'))?.id });
    expect((await account('5100'))?.parentId).toBe((await account('5000'))?.id);
    await mo.undo(moved.step);
    await mo.undo(step);
    expect(await account('6010')).toMatchObject({ id: freight, name: 'Freight out' });
    expect((await account('6010'))?.parentId).toBe((await account('6000'))?.id);
  });

  it('is not given a code that is taken, nor put below itself or another type', async () => {
    await expect(change('6010', { code: '6020' })).rejects.toThrow('ACCOUNT_CODE_TAKEN');
    const below = async (code: string, parent: string) =>
      change(code, { parentId: (await account(parent))?.id });
    await expect(below('6010', '4000')).rejects.toThrow('ACCOUNT_BELOW_TYPE');
    await expect(below('6010', '6010')).rejects.toThrow('ACCOUNT_BELOW_ITSELF');
    await expect(below('6000', '6010')).rejects.toThrow('ACCOUNT_BELOW_ITSELF');
  });
});

it('an account that stands below another type in new books is renamed and renumbered there', async () => {
  const below = (await account('2210'))?.parentId;
  await change('2210', { name: 'Tax to reclaim' });
  await change('2210', { code: '2215' });
  expect(await account('2215')).toMatchObject({ name: 'Tax to reclaim', parentId: below });
});

it('an account made for another to stand below isn’t undone under it', async () => {
  const { id, step } = await mo.account('6200', 'Kiln costs');
  const moved = await change('6010', { parentId: id });
  await expect(mo.undo(step)).rejects.toThrow('STEP');
  await mo.undo(moved.step);
  await mo.undo(step);
  await expect(mo.redo(moved.step)).rejects.toThrow('STEP');
});

describe('a chart from a file', () => {
  it('makes new accounts and changes those that are there, as one step', async () => {
    const { step, count } = await take(
      'Code;Name;Type;Below;Words\n6211;Propane;expense;6210;\n6210;Kiln fuel;expense;6000;wood\n6010;Parcels;expense;6000;postage',
    );
    expect(count).toBe(3);
    expect(await account('6211')).toMatchObject({ parentId: (await account('6210'))?.id });
    expect(await account('6010')).toMatchObject({ name: 'Parcels', purpose: 'postage' });
    await mo.undo(step);
    expect(await account('6210')).toBeUndefined();
    expect(await account('6010')).toMatchObject({ name: 'Freight out' });
    await mo.redo(step);
    expect(await account('6211')).toBeDefined();
  });

  it('is refused as a whole where anything is wrong, row by row', async () => {
    const { step, problems } = await take(
      'Code;Name;Type;Below\n6210;Kiln fuel;expense;6999\n6010;Freight;income;\n62-;;cost;',
    );
    expect(step).toBeNull();
    expect(problems.map(({ row }) => row)).toEqual([2, 3, 4]);
    expect(await account('6210')).toBeUndefined();
    const round = await take('Code;Name;Type;Below\n6210;Fuel;expense;6211\n6211;Gas;expense;6210');
    expect(round.step).toBeNull();
    expect(round.problems).toEqual([
      { row: 2, message: 'Account 6210 can’t be below itself.' },
      { row: 3, message: 'Account 6211 can’t be below itself.' },
    ]);
    const other = await take('Code;Name;Type;Below\n6010;Freight out;expense;4000');
    expect(other.problems).toEqual([
      { row: 2, message: 'Account 6010 can’t be below an account of another type.' },
    ]);
    expect(await account('6210')).toBeUndefined();
    expect((await take('Code;Name;Type')).step).toBeNull();
  });
});

describe('an account merged into another', () => {
  const merge = async (code: string, other: string) =>
    scene.client.send<StepDone>('POST', `${mo.path}/accounts/${await mo.accountId(code)}/merge`, {
      into: await mo.accountId(other),
    });

  it('counts there at every date, is coded to no more by choice, and comes apart by undo', async () => {
    const freight = await mo.accountId('6010');
    const { id } = await mo.addLine(scene.books.bankAccountId, '2026-03-03', -4_850, 'TIDEMARK');
    await mo.post([id], mo.codingTo(freight));
    const before = await mo.balance('6020');
    const { step, words } = await merge('6010', '6020');
    expect(words).toMatch(/^Merged account 6010 .* into 6020 /);
    expect(await mo.balance('6020')).toBe(before + 4_850);
    expect(await account('6010')).toMatchObject({
      isOn: false,
      mergedInto: await mo.accountId('6020'),
    });
    // What still names it can be posted, and counts there too.
    const next = await mo.addLine(scene.books.bankAccountId, '2026-03-04', -1_000, 'TIDEMARK');
    await mo.post([next.id], mo.codingTo(freight));
    expect(await mo.balance('6020')).toBe(before + 5_850);
    await mo.undo(step);
    expect(await mo.balance('6020')).toBe(before);
    expect(await mo.balance('6010')).toBe(5_850);
    await mo.redo(step);
    expect(await mo.balance('6020')).toBe(before + 5_850);
  });

  it('brings along what was merged into it and what stands below it', async () => {
    const made = await mo.account('6011', 'Couriers');
    await change('6011', { parentId: await mo.accountId('6010') });
    await merge('6020', '6010');
    const last = await merge('6010', '6030');
    const target = await mo.accountId('6030');
    expect(await account('6020')).toMatchObject({ mergedInto: target });
    expect(await account('6011')).toMatchObject({ id: made.id, parentId: target });
    await mo.undo(last.step);
    expect(await account('6020')).toMatchObject({ mergedInto: await mo.accountId('6010') });
    expect((await account('6011'))?.parentId).toBe(await mo.accountId('6010'));
  });

  it('has no account put below it', async () => {
    await merge('6010', '6020');
    const below = { parentId: await mo.accountId('6010') };
    await expect(change('6030', below)).rejects.toThrow('ACCOUNT_UNKNOWN');
    const made = { code: '6012', name: 'Couriers', type: 'expense', ...below };
    await expect(scene.client.send('POST', `${mo.path}/accounts`, made)).rejects.toThrow(
      'ACCOUNT_UNKNOWN',
    );
    expect((await take('Code;Name;Type;Below\n6012;Couriers;expense;6010')).problems).toEqual([
      { row: 2, message: 'There is no account 6010 to be below.' },
    ]);
  });

  it('teaches what the other is learned from', async () => {
    const freight = await mo.accountId('6010');
    for (const day of ['03', '10', '17', '24']) {
      const date = `2026-03-${day}`;
      const { id } = await mo.addLine(scene.books.bankAccountId, date, -4_850, 'TIDEMARK BOATS');
      await mo.post([id], mo.codingTo(freight));
    }
    await merge('6010', '6020');
    await mo.addLine(scene.books.bankAccountId, '2026-03-31', -4_850, 'TIDEMARK BOATS');
    const [line] = await mo.open();
    expect(line?.proposal).toMatchObject({
      coding: { parts: [{ accountId: await mo.accountId('6020') }] },
    });
  });

  it('is of the same type, and none that the program keeps', async () => {
    await expect(merge('6010', '6010')).rejects.toThrow('ACCOUNT_MERGE_SELF');
    await expect(merge('6010', '4000')).rejects.toThrow('ACCOUNT_MERGE_UNLIKE');
    const { accounts } = await mo.setup();
    const kept = accounts.find(({ role }) => role === 'suspense');
    const other = accounts.find(({ role, type }) => role === null && type === kept?.type);
    await expect(merge(kept?.code ?? '', other?.code ?? '')).rejects.toThrow('ACCOUNT_MERGE_USED');
    await merge('6010', '6020');
    await expect(merge('6010', '6030')).rejects.toThrow('ACCOUNT_UNKNOWN');
    await expect(change('6010', { isOn: true })).rejects.toThrow('ACCOUNT_UNKNOWN');
  });
});
