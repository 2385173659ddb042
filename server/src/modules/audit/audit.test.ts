import type { AuditRecords, ChainChecks } from '@zubrell/contract/audit';
import { sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { bookkeeper } from '../../testing/bookkeeper.ts';
import { ofxFile } from '../../testing/files.ts';
import { setOwnedBooks } from '../../testing/ownedBooks.ts';
import { testToday } from '../../testing/today.ts';
import { verifyRecords, verifySteps } from './verifyChains.ts';

/** The SQLSTATE of what a role may not do. */
const NOT_ALLOWED = '42501';

const set = setOwnedBooks();

const records = async (query = '') =>
  (await set.client.get<AuditRecords>(`/api/books/${set.books.id}/records${query}`)).items;
const kinds = async () => (await records()).map(({ kind }) => kind);

const LastRow = z.object({ kind: z.string(), userId: z.string().nullable(), code: z.string() });

describe('the record', () => {
  it('names who invited whom, who joined, whose role changed, with time and address', async () => {
    const path = `/api/books/${set.books.id}`;
    const { id, secret } = await set.client.send<{ id: string; secret: string }>(
      'POST',
      `${path}/invitations`,
      { name: 'Ida Fennick', role: 'client' },
    );
    const ida = await set.harness.signIn('Ida Fennick');
    await ida.send('POST', `/api/invitations/${secret}/join`, { newUser: null });
    await set.client.send('PATCH', `${path}/people/${ida.userId}`, { role: 'reviewer' });
    await set.client.send('POST', `${path}/invitations/${id}/withdraw`, {});
    await set.client.send('PATCH', path, { assetThreshold: 100_000 });
    await set.client.send('POST', `${path}/exports`, { what: 'records' });
    const [exported, changed, role, joined, , invited, made] = await records();
    expect(exported).toMatchObject({ kind: 'exported', details: { what: 'records' } });
    expect(changed).toMatchObject({ kind: 'settingsChanged', who: 'Mo Oakes' });
    expect(changed?.words).toBe('Changed the required fields and warnings');
    expect(role).toMatchObject({
      kind: 'roleChanged',
      who: 'Mo Oakes',
      about: 'Ida Fennick',
      details: { from: 'client', to: 'reviewer' },
      address: '127.0.0.1',
    });
    expect(role?.at).toContain(testToday);
    expect(joined).toMatchObject({ kind: 'joined', who: 'Ida Fennick' });
    expect(invited).toMatchObject({
      kind: 'invited',
      name: 'Ida Fennick',
      details: { role: 'client' },
    });
    expect(made?.kind).toBe('booksMade');
    // Her sign-in is shown, as she works with these set.books.
    expect((await records('?group=signingIn')).map(({ who }) => who)).toEqual([
      'Ida Fennick',
      'Mo Oakes',
    ]);
    // Taking back what was taken up already changed nothing.
    expect(await kinds()).not.toContain('invitationWithdrawn');
  });

  it('has every refusal, and is for owners', async () => {
    const stranger = await set.harness.signIn('Orrin Bell');
    await expect(stranger.get(`/api/books/${set.books.id}/setup`)).rejects.toThrow('BOOKS_UNKNOWN');
    await expect(stranger.get(`/api/books/${set.books.id}/records`)).rejects.toThrow(
      'BOOKS_UNKNOWN',
    );
    const [refused] = await records('?group=refusals');
    expect(refused).toMatchObject({
      who: 'Orrin Bell',
      details: { code: 'BOOKS_UNKNOWN', route: 'GET /api/books/:booksId/records' },
    });
    const answer = await set.harness.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { email: 'nobody@larkmoor.example', password: 'guessed' },
    });
    expect(answer.statusCode).toBe(401);
    // Nobody of these books: it is on record, and no business of theirs.
    expect((await records('?group=refusals'))[0]).toMatchObject(refused ?? {});
    const [last] = await rowsOf(
      set.owner,
      LastRow,
      sql`select kind, user_id as "userId", details ->> 'code' as code from audit_records
          where books_id is null order by no desc limit 1`,
    );
    expect(last).toEqual({ kind: 'refused', userId: null, code: 'SIGN_IN_WRONG' });
  });

  it('pages from the newest to the oldest, each once', async () => {
    for (let count = 0; count < 120; count += 1) {
      await set.client.send('POST', `/api/books/${set.books.id}/exports`, { what: 'coding' });
    }
    const first = await set.client.get<AuditRecords>(`/api/books/${set.books.id}/records`);
    const second = await set.client.get<AuditRecords>(
      `/api/books/${set.books.id}/records?cursor=${first.next}`,
    );
    expect(second.next).toBeNull();
    const all = [...first.items, ...second.items];
    expect(new Set(all.map(({ key }) => key)).size).toBe(all.length);
    expect(all.map(({ at }) => at)).toEqual(
      all
        .map(({ at }) => at)
        .sort()
        .reverse(),
    );
    expect(all.at(-1)?.kind).toBe('signedIn');
  });
});

const NoRow = z.object({ no: z.number() });

describe('the chains', () => {
  const check = () => set.client.get<ChainChecks>(`/api/books/${set.books.id}/records/check`);
  /** Does something as the tables' set.owner, looks, and takes it back. */
  async function tampered(change: ReturnType<typeof sql>) {
    let found: unknown = null;
    await set.owner
      .transaction(async (tx) => {
        await tx.execute(change);
        const chains = [await verifySteps(tx, set.books.id), await verifyRecords(tx, set.books.id)];
        found = chains.map(({ faults }) => faults);
        throw new Error('taken back');
      })
      .catch((error: Error) => {
        if (error.message !== 'taken back') throw error;
      });
    return found;
  }

  it('are whole after work of every kind', async () => {
    const mo = bookkeeper(set.client, set.books.id);
    const lines = [{ date: '2026-03-02', amount: '-48.50', text: 'TIDEMARK FRT', id: 'A1' }];
    await set.books.keep('march.ofx', ofxFile(lines, '500.00'));
    const [line] = await mo.open();
    await mo.post([line?.id ?? ''], mo.codingTo(await set.books.accountId('6010')));
    await mo.undo();
    await mo.redo();
    const { chains } = await check();
    const steps = await mo.steps();
    expect(chains.map(({ chain, faults }) => [chain, faults])).toEqual([
      ['steps', []],
      ['records', []],
    ]);
    expect(chains[0]?.count).toBe(steps.length);
    expect(chains[0]?.head).toMatch(/^[\da-f]{64}$/);
    const signIns = await set.owner.transaction((tx) => verifyRecords(tx, null));
    expect(signIns).toMatchObject({ chain: 'signIns', faults: [] });
    expect(signIns.count).toBeGreaterThan(2);
  });

  it('are whole also while others go on with their work', async () => {
    const exported = () =>
      set.client.send('POST', `/api/books/${set.books.id}/exports`, { what: 'coding' });
    const checks = await Promise.all(
      Array.from({ length: 60 }, (_, no) => (no % 2 === 0 ? check() : exported().then(check))),
    );
    expect(checks.flatMap(({ chains }) => chains.flatMap(({ faults }) => faults))).toEqual([]);
  });

  it('name the step whose words, time, items or needs were changed', async () => {
    const of = sql`where books_id = ${set.books.id}`;
    const third = [{ no: 3, what: 'changed' }];
    const changes = [
      sql`update steps set words = words || '.' ${of} and no = 3`,
      sql`update steps set at = at - interval '1 microsecond' ${of} and no = 3`,
      sql`update step_items set after = after || '{"amount": 1}' ${of} and step_no = 3 and position = 0`,
      sql`delete from step_items ${of} and step_no = 3 and position = 0`,
      sql`update step_words set key = 'Nothing' ${of} and step_no = 3`,
      sql`insert into step_needs (books_id, step_no, thing, thing_id)
          select books_id, no, 'line', gen_random_uuid() from steps ${of} and no = 3`,
    ];
    for (const change of changes.slice(0, 5)) {
      expect(await tampered(change)).toEqual([third, []]);
    }
    // A step that is sealed takes nothing more, whoever asks.
    await expect(tampered(changes[5] ?? sql``)).rejects.toThrow();
  });

  it('name rows that are missing, in between or at the end', async () => {
    const gone = (no: ReturnType<typeof sql>) => sql`
      with items as (delete from step_items where books_id = ${set.books.id} and step_no = ${no}),
        needs as (delete from step_needs where books_id = ${set.books.id} and step_no = ${no}),
        words as (delete from step_words where books_id = ${set.books.id} and step_no = ${no})
      delete from steps where books_id = ${set.books.id} and no = ${no}`;
    expect(await tampered(gone(sql`2`))).toEqual([[{ no: 2, what: 'missing' }], []]);
    const [{ no } = { no: 0 }] = await rowsOf(
      set.owner,
      NoRow,
      sql`select max(no) as no from steps where books_id = ${set.books.id}`,
    );
    expect(await tampered(gone(sql`${no}`))).toEqual([[{ no, what: 'missing' }], []]);
    const record = sql`from audit_records where books_id = ${set.books.id} and no = 2`;
    expect(await tampered(sql`delete ${record}`)).toEqual([[], [{ no: 2, what: 'missing' }]]);
  });

  it('name a record whose person, address or details were changed', async () => {
    const of = sql`where books_id = ${set.books.id} and no = 2`;
    const second = [[], [{ no: 2, what: 'changed' }]];
    for (const change of [
      sql`update audit_records set user_id = gen_random_uuid() ${of}`,
      sql`update audit_records set personal = personal || '{"address": "10.0.0.9"}' ${of}`,
      sql`update audit_records set details = details || '{"role": "owner"}' ${of}`,
    ]) {
      expect(await tampered(change)).toEqual(second);
    }
    expect(
      await tampered(sql`update audit_records set personal = null, salt = null ${of}`),
    ).toEqual([[], [{ no: 2, what: 'forgotten' }]]);
  });
});

const SignInRow = z.object({ userId: z.string(), day: z.string() });

describe('the running program', () => {
  const asRuntime = (statement: ReturnType<typeof sql>) =>
    set.harness.database.transaction(async (tx) => {
      await tx.execute(sql`select set_config('app.books_id', ${set.books.id}, true)`);
      await tx.execute(statement);
    });

  it('can’t write, change or remove a step or a record past the functions', async () => {
    for (const statement of [
      sql`insert into steps (books_id, no, user_id, at, kind, words)
          values (${set.books.id}, 999, ${set.client.userId}, now(), 'post', 'forged')`,
      sql`update steps set words = 'forged' where books_id = ${set.books.id}`,
      sql`delete from step_items where books_id = ${set.books.id}`,
      sql`insert into audit_records (no) values (1)`,
      sql`update audit_records set details = '{}' where books_id = ${set.books.id}`,
      sql`delete from audit_records`,
      sql`update audit_heads set no = 0`,
      sql`insert into mandates (books_id, user_id) values (${set.books.id}, ${set.client.userId})`,
      sql`insert into fixed_day (day) values ('2020-01-01')`,
      sql`select append_record(null, ${set.client.userId}, 'signedIn', null, '{}', '{}')`,
      sql`select seal_step(${set.books.id}, 1)`,
    ]) {
      const refused = await asRuntime(statement).catch((error: unknown) => error);
      expect(refused).toMatchObject({ cause: { code: NOT_ALLOWED } });
    }
    // Only who is erased is forgotten.
    await expect(asRuntime(sql`select erase_personal(${set.client.userId})`)).rejects.toThrow();
  });

  it('can’t act for somebody else: the session says who it is, a job only what was asked for', async () => {
    const stranger = await set.harness.signIn('Orrin Bell');
    const step = (session: string | null, kind: string, user: string) =>
      sql`select record_step(${session}, ${user}, ${set.books.id}, 999, ${kind}, 'forged', null, null)`;
    for (const forged of [
      step('made up', 'post', set.client.userId),
      // A file was kept in Mo's name, so jobs may go on with that, and with nothing else.
      step(null, 'post', set.client.userId),
      step(null, 'keepBatch', stranger.userId),
    ]) {
      const refused = await asRuntime(forged).catch((error: unknown) => error);
      expect(refused).toMatchObject({ cause: { message: 'SIGN_IN_NEEDED' } });
    }
    // Whoever is named, it is the session's person that stands there.
    await expect(
      set.harness.database.transaction(async (tx) => {
        await tx.execute(sql`select set_config('app.books_id', ${set.books.id}, true)`);
        await tx.execute(step(stranger.session, 'post', set.client.userId));
        const [row] = await rowsOf(
          tx,
          SignInRow,
          sql`select user_id as "userId", at::date::text as day from steps
              where books_id = ${set.books.id} and no = 999`,
        );
        expect(row).toEqual({ userId: stranger.userId, day: testToday });
        throw new Error('taken back');
      }),
    ).rejects.toThrow('taken back');
  });
});
