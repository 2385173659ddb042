import type { StepDone } from '@zubrell/contract/common';
import type { ScopeProof, Stack, Steps, UndoDone } from '@zubrell/contract/desk';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type Client, makeBooks, type TestBooks } from '../../testing/client.ts';
import { ofxFile } from '../../testing/files.ts';
import { startHarness } from '../../testing/harness.ts';
import type { Harness } from '../../testing/testServer.ts';

let harness: Harness;
let mo: Client;
let eve: Client;
let books: TestBooks;
let path: string;

beforeAll(async () => {
  harness = await startHarness();
  mo = await harness.signIn('Mo Oakes');
  eve = await harness.signIn('Eve Barr');
});
afterAll(() => harness.stop());

beforeEach(async () => {
  books = await makeBooks(mo);
  path = `/api/books/${books.id}`;
  await harness.database.execute(
    sql`insert into memberships (books_id, user_id, role)
        values (${books.id}, ${eve.userId}, 'bookkeeper')`,
  );
  await books.keep(
    'march.ofx',
    ofxFile(
      [
        { date: '2026-03-02', amount: '-29.00', text: 'ORRIN BELL 1' },
        { date: '2026-03-03', amount: '-48.50', text: 'TIDEMARK FRT 1' },
        { date: '2026-03-04', amount: '-39.20', text: 'TIDEMARK FRT 2' },
      ],
      '0.00',
    ),
  );
});

async function post(client: Client, key: string, code: string): Promise<StepDone> {
  return client.send('POST', `${path}/lines/post`, {
    target: {
      stack: { grouping: 'lookAlikes', key, direction: 'out' },
      lane: 'blank',
      scope: {},
    },
    coding: {
      payeeId: null,
      parts: [
        {
          accountId: await books.accountId(code),
          taxCodeId: null,
          share: { kind: 'rest' },
          tax: null,
        },
      ],
      note: null,
    },
    seenStep: 1_000,
  });
}

const undo = (client: Client, step: number | null = null, withLater = false) =>
  client.send<UndoDone>('POST', `${path}/steps/undo`, { step, withLater });
const redo = (client: Client, step: number | null = null) =>
  client.send<UndoDone>('POST', `${path}/steps/redo`, { step });
const openCount = async () => (await mo.get<ScopeProof>(`${path}/proof`)).proof?.openCount;

/** The steps that were turned, in that order. */
const numbersOf = ({ turned }: UndoDone) => turned.map(({ no }) => no);

describe('undo', () => {
  it('takes back one’s own latest step, not another’s, and then the one before', async () => {
    await post(mo, 'ORRIN BELL', '6030');
    await post(eve, 'TIDEMARK FRT', '6010');
    expect((await undo(mo)).words).toContain('1 line');
    expect(await openCount()).toBe(1);
    expect((await undo(eve)).words).toContain('2 lines');
    expect(await openCount()).toBe(3);
    await expect(undo(eve)).rejects.toThrow('STEP_NOTHING');
  });

  it('is found in the history by kind, person and words', async () => {
    await post(mo, 'TIDEMARK FRT', '6010');
    await post(eve, 'ORRIN BELL', '6030');
    const words = async (query: string) =>
      (await mo.get<Steps>(`${path}/steps?${query}`)).items.map((step) => step.words);
    expect(await words('group=posting')).toHaveLength(2);
    expect(await words('group=asking')).toEqual([]);
    expect(await words('search=6030')).toEqual([expect.stringContaining('6030')]);
    expect(await words('search=%25')).toEqual([]);
    expect(await words(`userId=${eve.userId}&group=posting`)).toHaveLength(1);
    const { people } = await mo.get<Steps>(`${path}/steps`);
    expect(people.map(({ id }) => id).sort()).toEqual([mo.userId, eve.userId].sort());
  });

  it('of an older step names the later ones that touched the same, or takes them along', async () => {
    const first = await post(mo, 'TIDEMARK FRT', '6010');
    await undo(mo, first.step);
    const second = await post(eve, 'TIDEMARK FRT', '6090');
    await expect(redo(mo, first.step)).rejects.toThrow(`STEP_TOUCHED: These steps depend on it`);
    const batch = (await mo.get<Steps>(`${path}/steps`)).items.find(
      ({ kind }) => kind === 'keepBatch',
    );
    await expect(undo(mo, batch?.no)).rejects.toThrow(String(second.step));
    expect(numbersOf(await undo(mo, batch?.no, true))).toEqual([second.step, batch?.no]);
    // With the batch its opening balance goes too, and there is nothing left to prove.
    expect(await openCount()).toBeUndefined();
  });

  it('is refused for what is taken back already, and for what was never there', async () => {
    const { step } = await post(mo, 'ORRIN BELL', '6030');
    await undo(mo, step);
    await expect(undo(mo, step)).rejects.toThrow('STEP_UNDONE');
    await expect(undo(mo, 999)).rejects.toThrow('STEP_UNKNOWN');
  });

  it('keeps every step in the history, with what became of it', async () => {
    const { step } = await post(mo, 'ORRIN BELL', '6030');
    await undo(mo, step);
    await redo(mo);
    const { items } = await mo.get<Steps>(`${path}/steps`);
    expect(items.slice(0, 3).map(({ kind, undoes, isUndone }) => [kind, undoes, isUndone])).toEqual(
      [
        ['redo', step, false],
        ['undo', step, false],
        ['post', null, false],
      ],
    );
  });
});

describe('redo', () => {
  it('revives the same entry', async () => {
    await post(mo, 'ORRIN BELL', '6030');
    const account = await books.accountId('6030');
    const entries = async () =>
      (
        await mo.get<{ items: { entryId: string }[] }>(`${path}/accounts/${account}/register`)
      ).items.map(({ entryId }) => entryId);
    const before = await entries();
    await undo(mo);
    expect(await entries()).toEqual([]);
    await redo(mo);
    expect(await entries()).toEqual(before);
  });

  it('brings back nothing after something new was done', async () => {
    await post(mo, 'ORRIN BELL', '6030');
    await undo(mo);
    await post(mo, 'TIDEMARK FRT', '6010');
    await expect(redo(mo)).rejects.toThrow('STEP_NO_REDO');
  });

  it('goes back and forth through several steps', async () => {
    await post(mo, 'ORRIN BELL', '6030');
    await post(mo, 'TIDEMARK FRT', '6010');
    for (let round = 0; round < 2; round += 1) {
      await undo(mo);
      await undo(mo);
      expect(await openCount()).toBe(3);
      await redo(mo);
      await redo(mo);
      expect(await openCount()).toBe(0);
    }
  });
});

describe('what was made', () => {
  it('goes with its step and comes back with the same id', async () => {
    const made = await mo.send<StepDone & { id: string }>('POST', `${path}/payees`, {
      name: 'Penhallow Clay',
      kind: 'supplier',
    });
    await undo(mo, made.step);
    expect((await books.setup()).payees).toEqual([]);
    await redo(mo);
    expect((await books.setup()).payees).toMatchObject([{ id: made.id, name: 'Penhallow Clay' }]);
  });

  it('stays while it is in use, and says so', async () => {
    const { items } = await mo.get<Steps>(`${path}/steps`);
    const making = items.find(({ kind }) => kind === 'makeBankAccount');
    await expect(undo(mo, making?.no)).rejects.toThrow('Imported 3 lines from march.ofx');
    expect((await books.setup()).bankAccounts).toHaveLength(1);
  });

  it('teaches no more when it is taken back', async () => {
    await post(mo, 'TIDEMARK FRT', '6010');
    const late = ofxFile(
      [{ date: '2026-03-09', amount: '-40.00', text: 'TIDEMARK FRT 3', id: 'L' }],
      '-40.00',
    );
    await books.keep('late.ofx', late);
    const stacks = async (lane: string) =>
      (await mo.get<{ stacks: Stack[] }>(`${path}/stacks?lane=${lane}&grouping=payee`)).stacks;
    const proposed = async () => [...(await stacks('ready')), ...(await stacks('check'))];
    const [waiting] = await proposed();
    expect(waiting?.proposal?.grounds).toMatchObject([{ kind: 'lookAlikes', times: 2, of: 2 }]);
    await undo(mo);
    expect(await proposed()).toEqual([]);
  });
});

describe('many lines', () => {
  it('are posted and taken back as one step', async () => {
    const many = Array.from({ length: 1_200 }, (_, index) => ({
      date: `2026-03-${String((index % 24) + 5).padStart(2, '0')}`,
      amount: '-1.00',
      text: `SALTER LOCKER ${index}`,
      id: `M${index}`,
    }));
    await books.keep('many.ofx', ofxFile(many, '0.00'), { withOpening: false });
    await post(mo, 'SALTER LOCKER', '6010');
    expect((await mo.get<Steps>(`${path}/steps`)).items[0]).toMatchObject({
      words: 'Posted 1200 lines to 6010 Freight out',
      itemCount: 1_200,
    });
    await undo(mo);
    const { stacks } = await mo.get<{ stacks: Stack[] }>(
      `${path}/stacks?lane=blank&grouping=lookAlikes`,
    );
    expect(stacks[0]).toMatchObject({ key: 'SALTER LOCKER', count: 1_200, draftCount: 1_200 });
  });
});
