import { sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { makeBooks } from '../testing/client.ts';
import { ofxFile } from '../testing/files.ts';
import { setOwnedBooks } from '../testing/ownedBooks.ts';
import { rebuild } from './rebuild.ts';
import { resetLink } from './resetLink.ts';
import { verify } from './verify.ts';

const set = setOwnedBooks();

describe('zubrell verify', () => {
  it('says that all is well, and gives the hashes to note down', async () => {
    const { lines, code } = await verify(set.owner, 'larkmoor kiln works', null);
    expect(code).toBe(0);
    expect(lines[0]).toBe(`Larkmoor Kiln Works (${set.books.id})`);
    expect(lines[1]).toMatch(/^1 steps: all as they were written\. Hash at the end: [\da-f]{64}$/);
    expect(lines).toHaveLength(4);
    const [, hash = ''] = /end: (.*)/.exec(lines[1] ?? '') ?? [];
    await set.client.send('POST', `/api/books/${set.books.id}/payees`, {
      name: 'Tidemark',
      kind: 'supplier',
    });
    const later = await verify(set.owner, set.books.id, hash);
    expect(later.code).toBe(0);
    expect(later.lines.at(-1)).toBe('The given hash is in its chain still.');
  });

  it('names what was changed, even where all hashes after it were made anew', async () => {
    const { lines } = await verify(set.owner, set.books.id, null);
    const [, noted = ''] = /end: (.*)/.exec(lines[1] ?? '') ?? [];
    await set.owner.execute(
      sql`update steps set words = 'Nothing' where books_id = ${set.books.id} and no = 1`,
    );
    const changed = await verify(set.owner, set.books.id, noted);
    expect(changed.code).toBe(1);
    expect(changed.lines).toContain('  Step 1 or the one before it is not as it was written.');
    // Whoever owns the tables can write the whole chain anew, and whoever noted its hash sees that.
    await set.owner.execute(
      sql`update step_words set key = 'Nothing', "values" = '[]'
          where books_id = ${set.books.id} and step_no = 1`,
    );
    await set.owner.execute(
      sql`update audit_heads set no = 0, hash = '' where books_id = ${set.books.id} and chain = 'steps'`,
    );
    await set.owner.execute(
      sql`select seal_step(books_id, no) from steps where books_id = ${set.books.id} order by no`,
    );
    expect((await verify(set.owner, set.books.id, null)).code).toBe(0);
    const anew = await verify(set.owner, set.books.id, noted);
    expect(anew.code).toBe(1);
    expect(anew.lines.at(-1)).toBe('The given hash is in none of the chains: they were rewritten.');
  });

  it('asks for an id where several books have the name, and knows no others', async () => {
    expect(await verify(set.owner, 'Nobody’s', null)).toMatchObject({ code: 2 });
    const other = await makeBooks(set.client);
    const { lines, code } = await verify(set.owner, 'Larkmoor Kiln Works', null);
    expect(code).toBe(2);
    expect(lines).toContain(`  ${other.id}`);
  });
});

describe('zubrell rebuild', () => {
  const path = () => `/api/books/${set.books.id}`;
  const rebuilt = () => rebuild(set.owner, set.harness.services.background, set.books.id);

  it('learns all anew, and finds what was kept up otherwise', async () => {
    const lines = [1, 2, 3].map((day) => ({
      date: `2026-03-0${day}`,
      amount: '-12.00',
      text: 'ORRIN BELL',
    }));
    await set.books.keep('march.ofx', ofxFile(lines, '0.00'));
    const query = 'lane=blank&grouping=lookAlikes&key=ORRIN+BELL&direction=out';
    const stack = await set.client.get<{ lines: { id: string }[] }>(
      `${path()}/stack-lines?${query}`,
    );
    const part = {
      accountId: await set.books.accountId('6030'),
      taxCodeId: null,
      share: { kind: 'rest' },
      tax: null,
    };
    await set.client.send('POST', `${path()}/lines/post`, {
      target: { lineIds: stack.lines.slice(0, 2).map(({ id }) => id) },
      coding: { payeeId: null, parts: [part], note: null },
      seenStep: 1e6,
    });
    expect(await rebuilt()).toEqual({
      lines: [
        `Larkmoor Kiln Works (${set.books.id})`,
        'Habits: 2 decided lines learned again, with the same result.',
        'Proposals: renewed for all open lines as soon as a server runs.',
        'Open lines and sums: worked out again, with the same result.',
      ],
      code: 0,
    });
    // Behind the program's back.
    await set.owner.execute(
      sql`update decision_lines set is_live = false where books_id = ${set.books.id}`,
    );
    await set.owner.execute(sql`delete from open_lines where books_id = ${set.books.id}`);
    await set.owner.execute(
      sql`update moved_days set amount = amount + 1 where books_id = ${set.books.id} and amount > 0`,
    );
    const found = await rebuilt();
    expect(found.code).toBe(1);
    expect(found.lines[3]).toMatch(
      /^Open lines and sums: worked out again, 3 rows of open_lines, 3 rows of moved_days with another result/,
    );
    expect(found.lines[1]).toMatch(/^Habits: 0 decided lines learned again, 2 with another result/);
    expect((await rebuilt()).code).toBe(0);
  });
});

describe('zubrell reset-link', () => {
  it('makes a link, on record as made by whoever runs the server', async () => {
    const { email } = await set.client
      .get<{ user: { email: string } }>('/api/session')
      .then(({ user }) => user);
    const made = await resetLink(set.owner, set.harness.services, email, true);
    expect(made.code).toBe(0);
    const link = made.lines.at(-1)?.replace('/reset/', '/api/reset-links/') ?? '';
    expect(await set.client.get(link)).toEqual({ name: 'Mo Oakes', email });
    const { items } = await set.client.get<{ items: object[] }>(
      `/api/books/${set.books.id}/records`,
    );
    expect(items[0]).toMatchObject({
      kind: 'resetLinkMade',
      who: null,
      about: 'Mo Oakes',
      details: { endsSecondFactor: true, byOperator: true },
    });
    expect(
      await resetLink(set.owner, set.harness.services, 'nobody@larkmoor.example', false),
    ).toMatchObject({
      code: 2,
    });
  });
});
