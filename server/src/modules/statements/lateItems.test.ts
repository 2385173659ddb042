import { dice } from '@zubrell/core/testing/dice';
import pg from 'pg';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { Problem } from '../../testing/client.ts';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let owner: pg.Client;
let mo: Bookkeeper;

beforeAll(async () => {
  owner = new pg.Client({ connectionString: scene.harness.urls.owner });
  await owner.connect();
});
afterAll(() => owner.end());
beforeEach(() => {
  mo = bookkeeper(scene.client, scene.books.id);
});

const CLOSED = '2026-03-31';

/** What each account came to on the last closed day, and each day of the closed time. */
async function figures() {
  const { rows } = await owner.query(
    `select account_id, date::text, sum(amount) as amount from movements
     where books_id = $1 and date <= $2 group by 1, 2 having sum(amount) <> 0 order by 1, 2`,
    [scene.books.id, CLOSED],
  );
  return rows;
}

/** Whether every entry balances on every day. */
async function unbalanced() {
  const { rows } = await owner.query(
    `select date, sum(amount) from movements where books_id = $1 group by 1 having sum(amount) <> 0`,
    [scene.books.id],
  );
  return rows;
}

describe('an entry of a closed period', () => {
  it('that was taken back late, and came again later still, is proved on every day', async () => {
    const bank = scene.books.bankAccountId;
    await scene.books.keep(
      'feb.ofx',
      ofxFile([{ date: '2026-02-10', amount: '-48.50', text: 'TIDEMARK', id: 'A' }], '951.50'),
    );
    const [line] = await mo.open();
    await mo.post([line?.id ?? ''], mo.codingTo(await mo.accountId('6010')));
    await mo.settings({ lockDate: '2026-02-28' });
    const { step } = await mo.reopen([line?.id ?? '']);
    await mo.settings({ lockDate: '2026-03-31' });
    await mo.undo(step ?? 0);
    const books = async (day: string) => {
      const proof = await mo.proof(bank, day);
      return [proof.books, proof.outstanding, proof.unexplained];
    };
    expect(await books('2026-02-28')).toEqual([95_150, 0, 0]);
    expect(await books('2026-03-15')).toEqual([100_000, 4_850, 0]);
    expect(await books('2026-04-01')).toEqual([95_150, 0, 0]);
    const { rows } = await owner.query(
      'select date::text, sign from late_turns where books_id = $1 order by date',
      [scene.books.id],
    );
    expect(rows).toEqual([
      { date: '2026-03-01', sign: -1 },
      { date: '2026-04-01', sign: 1 },
    ]);
  });
});

describe('the days that an agreed statement counts', () => {
  it('follow what it is made of, also where that is changed behind the program’s back', async () => {
    const bank = scene.books.bankAccountId;
    await scene.books.keep(
      'feb.ofx',
      ofxFile([{ date: '2026-02-28', amount: '-48.50', text: 'TIDEMARK', id: 'A' }], '951.50'),
    );
    const [line] = await mo.open();
    await mo.post([line?.id ?? ''], mo.codingTo(await mo.accountId('6010')));
    const counted = async () => {
      const { rows } = await owner.query(
        'select date::text, count, amount from counted_days where books_id = $1',
        [scene.books.id],
      );
      return rows;
    };
    await mo.agree(bank, '2026-02-28');
    expect(await counted()).toEqual([{ date: '2026-02-28', count: 1, amount: -4_850 }]);
    await owner.query('delete from statement_parts where books_id = $1', [scene.books.id]);
    expect(await counted()).toEqual([]);
  });
});

describe('whatever is done after closing', () => {
  it.each([1, 2, 3])('no figure of the closed month changes (walk %i)', async (seed) => {
    const throws = dice(seed * 31);
    const bank = scene.books.bankAccountId;
    const accounts = await Promise.all(['6010', '6030', '4010', '5000'].map(mo.accountId));
    const coding = () => mo.codingTo(throws.pick(accounts));
    const lines = Array.from({ length: 14 }, (_, at) => ({
      date: `2026-03-${String(2 + 2 * at).padStart(2, '0')}`,
      amount: (throws.whole(-90_000, 40_000) / 100).toFixed(2),
      text: throws.pick(['TIDEMARK', 'ORRIN', 'PENHALLOW', 'SALTMARSH']),
      id: `L${at}`,
    }));
    await scene.books.keep('march.ofx', ofxFile(lines, '500.00'));
    const nothing = { costCentreId: null, jobId: null, isRecharged: false };
    const bill = await mo.document({
      kind: 'bill',
      side: 'payables',
      payeeId: (await mo.payee('Penhallow Clay')).id,
      number: '7',
      date: '2026-03-03',
      dueDate: null,
      note: null,
      lines: [
        {
          text: 'Clay',
          accountId: accounts[3],
          taxCodeId: null,
          amount: 4_000,
          tax: null,
          ...nothing,
        },
      ],
    });
    for (const { id } of (await mo.open()).slice(0, 11)) await mo.post([id], coding());
    await mo.settings({ lockDate: CLOSED });
    const before = await figures();
    expect(before.length).toBeGreaterThan(5);
    const closing = (await mo.steps())[0]?.no ?? 0;
    const some = <T>(all: readonly T[]) => (all.length === 0 ? [] : [throws.pick(all)]);
    const acts: readonly (() => Promise<unknown>)[] = [
      async () => mo.reopen(some(await mo.decided()).map(({ id }) => id)),
      async () =>
        mo.post(
          some(await mo.open()).map(({ id }) => id),
          coding(),
        ),
      async () =>
        mo.recode(
          some(await mo.decided()).map(({ id }) => id),
          {
            accountId: throws.pick(accounts),
          },
        ),
      async () => {
        const steps = (await mo.steps()).filter(({ no, isUndone, undoes }) => {
          return no !== closing && !isUndone && undoes === null && no > 2;
        });
        const [step] = some(steps);
        return step && mo.undo(step.no, true);
      },
      async () => mo.redo(),
      async () =>
        mo.addLine(bank, `2026-03-${throws.whole(10, 30)}`, -throws.whole(1, 900), 'LATE'),
      async () => mo.voidDocument(bill.id),
    ];
    let done = 0;
    for (let count = 0; count < 40; count += 1) {
      await throws
        .pick(acts)()
        .then(() => (done += 1))
        .catch((error: unknown) => {
          if (!(error instanceof Problem)) throw error;
        });
      expect(await figures()).toEqual(before);
      expect(await unbalanced()).toEqual([]);
    }
    expect(done).toBeGreaterThan(15);
    expect((await mo.proof(bank)).causes.filter(({ kind }) => kind !== 'bankDiffers')).toEqual([]);
  });
});
