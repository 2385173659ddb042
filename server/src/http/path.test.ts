import type { DeskLine, LinesDone, Scope, ScopeProof, Stack, Steps } from '@zubrell/contract/desk';
import type { LedgerRows } from '@zubrell/contract/ledger';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, makeBooks, Problem, type TestBooks } from '../testing/client.ts';
import { ofxFile } from '../testing/files.ts';
import { startHarness } from '../testing/harness.ts';
import type { Harness } from '../testing/testServer.ts';

let harness: Harness;
let client: Client;
let books: TestBooks;

beforeAll(async () => {
  harness = await startHarness();
  client = await harness.signIn('Mo Oakes');
});
afterAll(() => harness.stop());

const march = ofxFile(
  [
    { date: '2026-03-03', amount: '-48.50', text: 'CRD PUR TIDEMARK FRT 20318' },
    { date: '2026-03-06', amount: '-39.20', text: 'CRD PUR TIDEMARK FRT 20344' },
    { date: '2026-03-17', amount: '-41.70', text: 'CRD PUR TIDEMARK FRT 20391' },
    { date: '2026-03-20', amount: '640.00', text: 'NETTLE AND THREAD' },
  ],
  '1510.60',
);

async function proof(scope: Scope = {}): Promise<ScopeProof['proof']> {
  const query = scope.to ? `?to=${scope.to}` : '';
  return (await client.get<ScopeProof>(`/api/books/${books.id}/proof${query}`)).proof;
}

async function stacks(lane: string): Promise<Stack[]> {
  const path = `/api/books/${books.id}/stacks?lane=${lane}&grouping=lookAlikes`;
  return (await client.get<{ stacks: Stack[] }>(path)).stacks;
}

async function postFreight(seenStep = 1_000): Promise<LinesDone> {
  return client.send('POST', `/api/books/${books.id}/lines/post`, {
    target: {
      stack: { grouping: 'lookAlikes', key: 'TIDEMARK FRT', direction: 'out' },
      lane: 'blank',
      scope: {},
    },
    coding: {
      payeeId: null,
      parts: [
        {
          accountId: await books.accountId('6010'),
          taxCodeId: await books.taxCodeId('20 %'),
          share: { kind: 'rest' },
          tax: null,
        },
      ],
      note: null,
    },
    seenStep,
  });
}

describe('a bank file becomes posted entries', () => {
  it('comes in with its opening balance, once', async () => {
    books = await makeBooks(client);
    const kept = await books.keep('march.ofx', march);
    expect(kept).toMatchObject({ status: 'kept', newCount: 4 });
    const { bankAccounts } = await books.setup();
    expect(bankAccounts[0]?.opening).toEqual({ date: '2026-03-02', amount: 100000, clients: [] });
    expect(await proof()).toMatchObject({
      bank: 151060,
      isStated: true,
      open: 51060,
      openCount: 4,
      shouldSay: 100000,
      books: 100000,
      unexplained: 0,
    });
    expect(await books.keep('march again.ofx', march)).toMatchObject({
      status: 'kept',
      newCount: 0,
    });
    expect(await proof()).toMatchObject({ openCount: 4, books: 100000, unexplained: 0 });
  });

  it('stacks what recurs and posts a stack as one step', async () => {
    expect((await stacks('blank')).map(({ key, count, total }) => ({ key, count, total }))).toEqual(
      [
        { key: 'TIDEMARK FRT', count: 3, total: -12940 },
        { key: 'NETTLE AND THREAD', count: 1, total: 64000 },
      ],
    );
    const done = await postFreight();
    expect(done).toMatchObject({ words: 'Posted 3 lines to 6010 Freight out', leftOut: [] });
    expect(done.done).toHaveLength(3);
    expect(await proof()).toMatchObject({ openCount: 1, books: 87060, unexplained: 0 });
    const register = await client.get<LedgerRows>(
      `/api/books/${books.id}/accounts/${await books.accountId('6010')}/register`,
    );
    expect(register.items.map(({ amount, balance }) => [amount, balance])).toEqual([
      [3475, 10784],
      [3267, 7309],
      [4042, 4042],
    ]);
  });

  it('learns: three decided one way make the next one Ready', async () => {
    const next = ofxFile(
      [{ date: '2026-03-27', amount: '-47.00', text: 'CRD PUR TIDEMARK FRT 20433', id: 'N1' }],
      '1463.60',
    );
    await books.keep('late.ofx', next);
    const [stack] = await stacks('ready');
    expect(stack).toMatchObject({ key: 'TIDEMARK FRT', count: 1 });
    expect(stack?.proposal?.grounds).toMatchObject([{ times: 3, of: 3 }]);
  });

  it('gives everything back by undo, with its coding as a draft, and again by redo', async () => {
    const { items } = await client.get<Steps>(`/api/books/${books.id}/steps`);
    const posting = items.find((step) => step.kind === 'post');
    const undo = { step: posting?.no ?? 0, withLater: false };
    await client.send('POST', `/api/books/${books.id}/steps/undo`, undo);
    expect(await proof()).toMatchObject({ openCount: 5, books: 100000, unexplained: 0 });
    const [freight] = await stacks('blank');
    expect(freight).toMatchObject({ key: 'TIDEMARK FRT', count: 4 });
    const lines = await client.get<{ lines: { draft: unknown }[] }>(
      `/api/books/${books.id}/stack-lines?lane=blank&grouping=lookAlikes&key=TIDEMARK%20FRT&direction=out`,
    );
    expect(lines.lines.filter((line) => line.draft !== null)).toHaveLength(3);
    await client.send('POST', `/api/books/${books.id}/steps/redo`, { step: null });
    expect(await proof()).toMatchObject({ openCount: 2, books: 87060, unexplained: 0 });
  });

  it('takes a batch back, but not under decided lines unless they go too', async () => {
    const { items } = await client.get<Steps>(`/api/books/${books.id}/steps`);
    const first = items.filter((step) => step.kind === 'keepBatch').at(-1)?.no ?? 0;
    // The second reading of the same file still sees these lines.
    const second = items.filter((step) => step.kind === 'keepBatch').at(-2)?.no ?? 0;
    await client.send('POST', `/api/books/${books.id}/steps/undo`, {
      step: second,
      withLater: false,
    });
    const undoFirst = (withLater: boolean) =>
      client.send('POST', `/api/books/${books.id}/steps/undo`, { step: first, withLater });
    await expect(undoFirst(false)).rejects.toThrow('STEP_TOUCHED');
    await undoFirst(true);
    expect(await proof()).toMatchObject({ openCount: 1 });
    expect(await books.keep('march.ofx', march)).toMatchObject({ newCount: 4 });
    expect(await proof()).toMatchObject({ openCount: 5, books: 100000, unexplained: 0 });
  });
});

describe('a line that may be in twice', () => {
  const month = (text: string, id: string) =>
    ofxFile([{ date: '2026-03-29', amount: '-58.00', text, id }], '0.00');
  const post = (path: string, body: object) => client.send<LinesDone>('POST', path, body);

  it('comes in with a doubt, is not posted before somebody says, and either answer comes back', async () => {
    const path = `/api/books/${books.id}/lines`;
    await books.keep('one.ofx', month('DD ORRIN BELL 1', 'X1'), { withOpening: false });
    expect(
      await books.keep('two.ofx', month('DD ORRIN BELL 2', 'Y1'), { withOpening: false }),
    ).toMatchObject({ status: 'kept', newCount: 1 });
    const [doubted] = (await stacks('check')).filter(({ key }) => key === 'ORRIN BELL');
    expect(doubted).toMatchObject({ count: 1, twiceCount: 1 });
    const { lines } = await client.get<{ lines: DeskLine[] }>(
      `/api/books/${books.id}/stack-lines?lane=check&grouping=lookAlikes&key=ORRIN%20BELL&direction=out`,
    );
    const [line] = lines;
    expect(line?.twiceOf).toMatchObject({ amount: -5800, description: 'DD ORRIN BELL 1' });
    const lineIds = [line?.id ?? ''];
    const coding = {
      payeeId: null,
      parts: [
        {
          accountId: await books.accountId('6030'),
          taxCodeId: null,
          share: { kind: 'rest' },
          tax: null,
        },
      ],
      note: null,
    };
    const posting = { target: { lineIds }, coding, seenStep: 1_000 };
    expect((await post(`${path}/post`, posting)).leftOut).toMatchObject([{ code: 'LINE_TWICE' }]);
    const said = await post(`${path}/both-real`, { lineIds, seenStep: 1_000 });
    expect(said.words).toBe('Confirmed 1 line as real, no second copy');
    expect((await stacks('blank')).find(({ key }) => key === 'ORRIN BELL')?.count).toBe(2);
    await client.send('POST', `/api/books/${books.id}/steps/undo`, {
      step: said.step,
      withLater: false,
    });
    const same = {
      target: { lineIds },
      reason: 'secondCopy',
      as: 'excluded',
      seenStep: 1_000,
    };
    expect((await post(`${path}/exclude`, same)).done).toEqual(lineIds);
    // Things are left as they were for the tests that follow.
    const { items } = await client.get<Steps>(`/api/books/${books.id}/steps`);
    for (const name of ['two.ofx', 'one.ofx']) {
      const step = items.find(({ words }) => words.includes(name))?.no;
      await client.send('POST', `/api/books/${books.id}/steps/undo`, { step, withLater: true });
    }
  });
});

describe('what is not right is refused with words', () => {
  it('posts an opening balance once, and not after the first line', async () => {
    const path = `/api/books/${books.id}/bank-accounts`;
    const wanted = { name: 'Till', kind: 'cash', bank: null, number: null };
    const till = await client.send<{ id: string }>('POST', path, wanted);
    const open = (id: string, date: string) =>
      client.send('POST', `${path}/${id}/opening`, { date, amount: 20000 });
    await open(till.id, '2026-03-01');
    await expect(open(till.id, '2026-02-01')).rejects.toThrow('OPENING_TWICE');
    await expect(open(books.bankAccountId, '2026-03-01')).rejects.toThrow('OPENING_TWICE');
    expect(await proof()).toMatchObject({ books: 120000, unexplained: 0 });
  });

  it('leaves out lines that changed since they were seen, and says who changed them', async () => {
    const { done, leftOut } = await postFreight(0);
    expect(done).toEqual([]);
    expect(leftOut[0]).toMatchObject({ code: 'LINE_CHANGED' });
    expect(leftOut[0]?.message).toContain('Mo Oakes');
  });

  it('answers a repeated key from the first time, and refuses it for another request', async () => {
    const body = { name: 'Penhallow Clay', kind: 'supplier' };
    const path = `/api/books/${books.id}/payees`;
    const first = await client.send('POST', path, body, 'key-1');
    expect(await client.send('POST', path, body, 'key-1')).toEqual(first);
    const other = { name: 'Gorsefield Gas', kind: 'supplier' };
    await expect(client.send('POST', path, other, 'key-1')).rejects.toThrow('KEY_REUSED');
    await expect(client.send('POST', path, body)).rejects.toThrow('PAYEE_TAKEN');
  });

  it('keeps nothing of a file with unreadable records until that is accepted', async () => {
    const csv = 'Date;Details;Amount\n03.03.2026;Clay;-1,50\n31.02.2026;Parcel;-6,90\n';
    const refused = await books.keep('card.csv', csv);
    expect(refused).toMatchObject({ status: 'refused', refusal: { code: 'FILE_HAS_REFUSED' } });
    expect(await proof()).toMatchObject({ openCount: 5 });
    expect(await books.keep('card.csv', csv, { acceptRefused: true })).toMatchObject({
      status: 'kept',
      newCount: 1,
    });
  });

  it('keeps nothing of what is no bank file, of another account or another currency', async () => {
    const refusal = async (content: string | Buffer) =>
      (await books.keep('x', content)).refusal?.code;
    expect(await refusal('hello there')).toBe('FILE_UNKNOWN');
    expect(await refusal(ofxFile([], '0.00'))).toBe('FILE_NO_LINES');
    expect(await refusal(march.replace('<ACCTID>4471', '<ACCTID>9999'))).toBe('FILE_OTHER_NUMBER');
    expect(await refusal(march.replace('EUR', 'USD'))).toBe('FILE_OTHER_CURRENCY');
  });

  it('shows books to nobody else', async () => {
    const stranger = await harness.signIn('Ida Stray');
    const look = stranger.get(`/api/books/${books.id}/setup`);
    await expect(look).rejects.toSatisfy(
      (error: unknown) => error instanceof Problem && error.details.status === 404,
    );
    const anyone = await harness.app.inject({ url: `/api/books/${books.id}/setup` });
    expect(anyone.statusCode).toBe(401);
  });

  it('refuses changes that come from another site', async () => {
    const answer = await harness.app.inject({
      method: 'POST',
      url: '/api/session',
      headers: { origin: 'https://elsewhere.test' },
      payload: { email: 'a@example.test', password: 'x' },
    });
    expect(answer.json()).toMatchObject({ status: 403, code: 'ORIGIN_FOREIGN' });
  });
});
