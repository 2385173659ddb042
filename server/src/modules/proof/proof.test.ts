import { addDays } from '@zubrell/core/dates/calendarDate';
import { isProved } from '@zubrell/core/proof/prove';
import fc from 'fast-check';
import pg from 'pg';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let everyday: string;
let bankLedger: string;
let freight: string;
/** Somebody who can change rows that the program itself can't. */
let owner: pg.Client;

beforeAll(async () => {
  owner = new pg.Client({ connectionString: scene.harness.urls.owner });
  await owner.connect();
});
afterAll(() => owner.end());

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  everyday = scene.books.bankAccountId;
  bankLedger = (await mo.setup()).bankAccounts[0]?.accountId ?? '';
  freight = await mo.accountId('6010');
});

/** Keeps lines of March; the opening balance is 1000.00, and the closing one what they come to. */
function keep(amounts: readonly number[], off = 0) {
  const closing = 100_000 + off + amounts.reduce((sum, amount) => sum + amount, 0);
  const lines = amounts.map((amount, index) => ({
    date: `2026-03-${String(index + 2).padStart(2, '0')}`,
    amount: (amount / 100).toFixed(2),
    text: `LINE ${index}`,
    id: `L${index}`,
  }));
  return scene.books.keep('march.ofx', ofxFile(lines, (closing / 100).toFixed(2)));
}
const lineIds = async () =>
  (await mo.open()).sort((a, b) => (a.date < b.date ? -1 : 1)).map(({ id }) => id);
const kinds = async () => (await mo.proof()).causes.map(({ kind, amount }) => [kind, amount]);
const entry = (kind: string, amount: number, date: string) => ({
  kind,
  date,
  note: null,
  bankAccountId: everyday,
  amount,
  number: '001042',
  payeeId: null,
  parts: [{ accountId: freight, taxCodeId: null, share: { kind: 'rest' }, tax: null }],
});

/** Adds to the bank leg of an entry, and takes the same from another of its legs, behind the program's back. */
const changeLeg = (entryId: string, by: number) =>
  owner.query(
    `update legs set amount = amount + case when account_id = $3 then $4::bigint else -$4::bigint end
     where books_id = $1 and entry_id = $2`,
    [scene.books.id, entryId, bankLedger, by],
  );
const entryOf = async (lineId: string) =>
  (await scene.client.get<{ entryId: string }>(`${mo.path}/lines/${lineId}`)).entryId;

describe('what may wait for the bank', () => {
  it('is what was entered by hand and has no line yet, whole and up to the day', async () => {
    await keep([-4_850]);
    await mo.enter(entry('cheque', 1_200, '2026-03-01'));
    await mo.enter(entry('deposit', 5_000, '2026-03-20'));
    expect(await mo.proof(everyday, '2026-03-10')).toMatchObject({
      outstanding: -1_200,
      outstandingCount: 1,
      unexplained: 0,
    });
    expect(await mo.proof(everyday, '2026-03-31')).toMatchObject({
      outstanding: 3_800,
      outstandingCount: 2,
      unexplained: 0,
    });
    const { items } = await scene.client.get<{ items: { amount: number }[] }>(
      `${mo.path}/proof/outstanding?to=2026-03-31`,
    );
    expect(items.map(({ amount }) => amount)).toEqual([-1_200, 5_000]);
  });

  it('is a pairing over the day: its entries less its lines', async () => {
    const cheque = await mo.enter(entry('cheque', 4_850, '2026-03-01'));
    await keep([-100, -4_850]);
    const { entries } = await scene.client.get<{ entries: { legId: string; entryId: string }[] }>(
      `${mo.path}/outstanding`,
    );
    const leg = entries.find(({ entryId }) => entryId === cheque.id)?.legId ?? '';
    const [, line = ''] = await lineIds();
    await mo.pair([line], [leg]);
    expect(await mo.proof(everyday, '2026-03-02')).toMatchObject({
      outstanding: -4_850,
      outstandingCount: 1,
      unexplained: 0,
    });
    expect(await mo.proof(everyday, '2026-03-03')).toMatchObject({
      outstanding: 0,
      outstandingCount: 0,
      unexplained: 0,
    });
  });

  it('is the half of a transfer whose line has not come', async () => {
    const { id: pot } = await mo.bankAccount('Tax pot', null);
    const potLedger = (await mo.setup()).bankAccounts.find(({ id }) => id === pot)?.accountId ?? '';
    await keep([-10_000]);
    await mo.post(await lineIds(), mo.codingTo(potLedger));
    await mo.opening(pot, '2026-02-28', 0);
    expect(await mo.proof(pot, '2026-03-31')).toMatchObject({
      books: 10_000,
      outstanding: 10_000,
      outstandingCount: 1,
      unexplained: 0,
    });
  });

  it('is a journal only where somebody said that the bank will report it', async () => {
    await keep([-4_850]);
    const journal = (isAwaited: boolean) => ({
      kind: 'journal',
      date: '2026-03-01',
      note: 'Interest to come',
      number: null,
      payeeId: null,
      isAwaited,
      legs: [
        { accountId: bankLedger, amount: 700 },
        { accountId: freight, amount: -700 },
      ],
    });
    const { id } = await mo.enter(journal(false));
    expect(await mo.proof()).toMatchObject({ outstanding: 0, unexplained: -700 });
    expect(await kinds()).toEqual([['notAwaited', -700]]);
    await scene.client.send('PUT', `${mo.path}/entries/${id}`, { entry: journal(true) });
    expect(await mo.proof()).toMatchObject({ outstanding: 700, unexplained: 0, causes: [] });
  });
});

describe('what is unexplained is named', () => {
  it('a pairing whose sides are not the same', async () => {
    await keep([-4_850]);
    const [line = ''] = await lineIds();
    await mo.post([line], mo.codingTo(freight));
    await changeLeg(await entryOf(line), -150);
    const proof = await mo.proof();
    expect(proof).toMatchObject({ unexplained: 150, outstanding: 0 });
    expect(proof.causes).toMatchObject([
      { kind: 'sidesDiffer', amount: 150, lineId: line, text: 'LINE 0' },
    ]);
  });

  it('a line that is booked twice', async () => {
    await keep([-4_850]);
    const [line = ''] = await lineIds();
    await mo.post([line], mo.codingTo(freight));
    const entryId = await entryOf(line);
    const copy = `00000000-0000-4000-8000-${Math.random().toString().slice(2, 14).padEnd(12, '0')}`;
    await owner.query('begin');
    await owner.query(
      `insert into entries (books_id, id, date, kind, step) select books_id, $3, date, kind, step
       from entries where books_id = $1 and id = $2`,
      [scene.books.id, entryId, copy],
    );
    await owner.query(
      `insert into legs (books_id, id, entry_id, position, account_id, amount, role)
       select books_id, gen_random_uuid(), $3, position, account_id, amount, role from legs
       where books_id = $1 and entry_id = $2`,
      [scene.books.id, entryId, copy],
    );
    await owner.query('commit');
    expect(await mo.proof()).toMatchObject({ unexplained: 4_850, outstanding: 0 });
    expect((await mo.proof()).causes).toMatchObject([{ kind: 'lineGone', entryId: copy }]);
  });

  it('a posting without its line', async () => {
    await keep([-4_850, -100]);
    const [line = ''] = await lineIds();
    await mo.post([line], mo.codingTo(freight));
    await owner.query('update lines set is_here = false where books_id = $1 and id = $2', [
      scene.books.id,
      line,
    ]);
    const proof = await mo.proof();
    // The bank states the balance, so it is the bank's chain that breaks by as much.
    expect(proof.causes.map(({ kind, amount }) => [kind, amount]).sort()).toEqual([
      ['bankDiffers', -4_850],
      ['lineGone', 4_850],
    ]);
    expect(isProved(proof)).toBe(false);
  });

  it('no line of the day after the opening balance, but one of its own day', async () => {
    await keep([-4_850]);
    const { opening } = (await mo.setup()).bankAccounts[0] ?? {};
    const day = opening?.date ?? '';
    const lines = [day, addDays(day, 1)].map((date, at) => ({
      date,
      amount: '-12.00',
      text: `DAY ${at}`,
      id: `D${at}`,
    }));
    await scene.books.keep('days.ofx', ofxFile(lines, '1000.00'), { withOpening: false });
    const held = (await mo.open()).flatMap(({ description, held: why }) =>
      description.startsWith('DAY') ? [[description, why]] : [],
    );
    expect(held.sort()).toEqual([
      ['DAY 0', 'beforeOpening'],
      ['DAY 1', null],
    ]);
  });

  it('a line in the books that is dated before the opening balance', async () => {
    await keep([-4_850]);
    const late = [{ date: '2026-02-20', amount: '-12.00', text: 'EARLIER', id: 'E' }];
    await scene.books.keep('feb.ofx', ofxFile(late, '1000.00'), { withOpening: false });
    const early = (await mo.open()).find(({ description }) => description === 'EARLIER');
    expect(early).toMatchObject({ held: 'beforeOpening' });
    const lanes = await scene.client.get<{ check: number }>(`${mo.path}/lanes`);
    expect(lanes.check).toBe(1);
    expect(await mo.proof()).toMatchObject({ unexplained: 0, openCount: 1 });
    await mo.post([early?.id ?? ''], mo.codingTo(freight));
    expect(await kinds()).toEqual([['beforeOpening', 1_200]]);
    await mo.undo();
    expect((await mo.exclude([early?.id ?? ''], 'beforeOpening')).done).toHaveLength(1);
    expect(await mo.proof()).toMatchObject({ unexplained: 0, causes: [] });
  });

  it('where the bank’s balances stop adding up, with the line that most likely did it', async () => {
    await scene.books.keep(
      'march.ofx',
      ofxFile(
        [
          { date: '2026-03-02', amount: '-48.50', text: 'TIDEMARK', id: 'A' },
          { date: '2026-03-03', amount: '-29.00', text: 'ORRIN BELL', id: 'B' },
        ],
        '922.50',
      ),
    );
    await mo.addLine(everyday, '2026-03-04', -2_900, 'ORRIN BELL');
    await mo.count(everyday, '2026-03-05', 92_250);
    expect((await mo.proof()).causes).toMatchObject([
      {
        kind: 'bankDiffers',
        amount: 2_900,
        since: '2026-03-03',
        date: '2026-03-05',
        likely: null,
      },
    ]);
    await mo.addLine(everyday, '2026-03-05', -2_900, 'ORRIN BELL');
    await mo.count(everyday, '2026-03-05', 89_350);
    expect((await mo.proof()).causes).toMatchObject([
      { amount: 2_900, likely: { reason: 'inTwice', description: 'ORRIN BELL' } },
    ]);
  });
});

describe('a proof', () => {
  it('is never proved where the bank stated nothing', async () => {
    await mo.opening(everyday, '2026-02-28', 100_000);
    await mo.addLine(everyday, '2026-03-04', -1_200, 'CASH CLAY');
    const proof = await mo.proof();
    expect(proof).toMatchObject({ isStated: false, statedDate: null, unexplained: 0 });
    expect(isProved(proof)).toBe(false);
    await mo.count(everyday, '2026-03-04', 98_800);
    expect(isProved(await mo.proof())).toBe(true);
  });

  it('does not hold once real purchases were set aside for a reason that is not true', async () => {
    await keep([-5_000, -4_000, -3_368, -4_000, -4_000, -4_000]);
    const six = await lineIds();
    for (const reason of ['bankError', 'beforeOpening']) {
      const { done, leftOut } = await mo.exclude(six, reason);
      expect(done).toEqual([]);
      expect(leftOut).toHaveLength(6);
    }
    const [, a = '', b = ''] = six;
    const copies = await mo.exclude([b], 'secondCopy');
    expect(copies.leftOut).toMatchObject([{ code: 'EXCLUDE_NO_ORIGINAL' }]);
    const unclear = await mo.exclude([a], 'secondCopy');
    expect(unclear.leftOut).toMatchObject([{ code: 'EXCLUDE_WHICH_COPY' }]);
    // One that is real, named as a copy of another real one: the bank's balance shows it.
    const named = await mo.exclude([a], 'secondCopy', { [a]: six[3] ?? '' });
    expect(named.done).toEqual([a]);
    expect(await mo.proof()).toMatchObject({ unexplained: -4_000 });
    expect((await mo.proof()).causes).toMatchObject([
      { kind: 'bankDiffers', likely: { reason: 'keptOut', lineId: a } },
    ]);
  });

  it('shows just what was changed behind the program’s back, whatever it is', async () => {
    const amount = fc.integer({ min: -90_000, max: 90_000 }).filter((each) => each !== 0);
    const change = fc.record({
      at: fc.nat(),
      how: fc.constantFrom('leg' as const, 'void' as const, 'open' as const),
      by: amount,
    });
    await fc.assert(
      fc.asyncProperty(
        fc.array(amount, { minLength: 3, maxLength: 6 }),
        change,
        async (amounts, { at, how, by }) => {
          const made = await scene.client.send<{ id: string }>('POST', '/api/books', {
            name: 'Fennick Canoe Hire',
            currency: 'EUR',
          });
          const ida = bookkeeper(scene.client, made.id);
          const bank = await ida.bankAccount('Everyday', null, 'current');
          const ledger = (await ida.setup()).bankAccounts[0]?.accountId ?? '';
          await ida.opening(bank.id, '2026-02-28', 100_000);
          const ids: string[] = [];
          for (const [index, each] of amounts.entries()) {
            ids.push((await ida.addLine(bank.id, '2026-03-02', each, `LINE ${index}`)).id);
          }
          const total = amounts.reduce((sum, each) => sum + each, 100_000);
          await ida.count(bank.id, '2026-03-02', total);
          const posted = ids.slice(1);
          await ida.post(posted, ida.codingTo(await ida.accountId('6010')));
          expect((await ida.proof()).unexplained).toBe(0);
          const line = posted[at % posted.length] ?? '';
          const whole = amounts[ids.indexOf(line)] ?? 0;
          const { entryId } = await scene.client.get<{ entryId: string }>(
            `${ida.path}/lines/${line}`,
          );
          if (how === 'leg') {
            await owner.query(
              `update legs set amount = amount + case when account_id = $3 then $4::bigint else -$4::bigint end
             where books_id = $1 and entry_id = $2`,
              [made.id, entryId, ledger, by],
            );
          } else if (how === 'void') {
            await owner.query('alter table entries disable trigger entries_due_change');
            await owner.query('update entries set is_void = true where books_id = $1 and id = $2', [
              made.id,
              entryId,
            ]);
            await owner.query('alter table entries enable trigger entries_due_change');
          } else {
            await owner.query('update lines set is_here = false where books_id = $1 and id = $2', [
              made.id,
              ids[0],
            ]);
          }
          const expected = how === 'leg' ? -by : how === 'void' ? whole : (amounts[0] ?? 0);
          const proof = await ida.proof();
          expect(proof.unexplained).toBe(expected);
          expect(proof.causes.reduce((sum, cause) => sum + cause.amount, 0)).toBe(expected);
        },
      ),
      { numRuns: 8, seed: 13 },
    );
  });
});
