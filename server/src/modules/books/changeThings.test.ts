import type { PayeeUse } from '@zubrell/contract/books';
import type { StepDone } from '@zubrell/contract/common';
import type { LinesDone } from '@zubrell/contract/desk';
import { proposedCoding } from '@zubrell/core/propose/proposal';
import { describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lanes, undo } = scene;

const payees = async () => (await scene.books.setup()).payees;

async function makePayee(name: string): Promise<string> {
  const made = await scene.client.send<{ id: string }>('POST', `${scene.path}/payees`, {
    name,
    kind: 'supplier',
  });
  return made.id;
}

const change = (id: string, wanted: object) =>
  scene.client.send<StepDone>('PATCH', `${scene.path}/payees/${id}`, wanted);
const merge = (id: string, into: string) =>
  scene.client.send<StepDone>('POST', `${scene.path}/payees/${id}/merge`, { into });

/** Three posted lines of a payee to phones, so that a fourth is Ready. */
async function postPhones(payeeId: string): Promise<void> {
  const line = (day: number) => ({
    date: `2026-03-0${day}`,
    amount: '-29.00',
    text: `ORRIN BELL ${day}`,
    id: `M${day}`,
  });
  await scene.books.keep('a.ofx', ofxFile([line(1), line(2), line(3)], '913.00'));
  const part = {
    accountId: await scene.books.accountId('6030'),
    taxCodeId: null,
    share: { kind: 'rest' },
    tax: null,
  };
  await scene.client.send<LinesDone>('POST', `${scene.path}/lines/post`, {
    target: {
      stack: { grouping: 'lookAlikes', key: 'ORRIN BELL', direction: 'out' },
      lane: 'blank',
      scope: {},
    },
    coding: { payeeId, parts: [part], note: null },
    seenStep: 1e6,
  });
  await scene.books.keep('b.ofx', ofxFile([line(4)], '884.00'));
}

const proposedPayee = async () =>
  proposedCoding((await scene.stacks('ready'))[0]?.proposal ?? null)?.payeeId;

describe('a payee', () => {
  it('is renamed and switched off, and back', async () => {
    const id = await makePayee('Orin Mobile');
    expect(await change(id, { name: 'Orrin Mobile' })).toMatchObject({
      words: 'Renamed the payee Orin Mobile to Orrin Mobile',
    });
    await change(id, { isOn: false });
    expect(await payees()).toMatchObject([{ name: 'Orrin Mobile', isOn: false }]);
    await undo();
    await undo();
    expect(await payees()).toMatchObject([{ name: 'Orin Mobile', isOn: true }]);
    await makePayee('Tidemark');
    await expect(change(id, { name: 'TIDEMARK' })).rejects.toThrow('PAYEE_TAKEN');
  });

  it('that is another one shows as that, in what was posted and what is proposed', async () => {
    const wrong = await makePayee('Orrin Mob');
    const right = await makePayee('Orrin Mobile');
    const oldest = await makePayee('Orrin');
    await merge(oldest, wrong);
    await postPhones(wrong);
    expect(await proposedPayee()).toBe(wrong);
    await merge(wrong, right);
    expect(await proposedPayee()).toBe(right);
    const { uses } = await scene.client.get<{ uses: PayeeUse[] }>(`${scene.path}/payee-uses`);
    expect(uses).toMatchObject([
      { payeeId: right, entryCount: 3, usualAccountId: await scene.books.accountId('6030') },
    ]);
    expect((await payees()).find(({ id }) => id === oldest)?.mergedInto).toBe(right);
    await undo();
    expect(await proposedPayee()).toBe(wrong);
    expect((await payees()).find(({ id }) => id === oldest)?.mergedInto).toBe(wrong);
    await expect(merge(wrong, wrong)).rejects.toThrow('PAYEE_SAME');
  });
});

describe('an account', () => {
  it('that is switched off puts what is proposed to it into Check', async () => {
    const account = await scene.books.accountId('6030');
    await postPhones(await makePayee('Orrin Mobile'));
    expect(await lanes()).toMatchObject({ ready: 1 });
    await scene.client.send('PATCH', `${scene.path}/accounts/${account}`, { isOn: false });
    expect(await lanes()).toMatchObject({ ready: 0, check: 1 });
    await undo();
    expect(await lanes()).toMatchObject({ ready: 1, check: 0 });
    await scene.client.send('PATCH', `${scene.path}/accounts/${account}`, { name: 'Phones' });
    expect((await scene.books.setup()).accounts.find(({ id }) => id === account)?.name).toBe(
      'Phones',
    );
  });
});
