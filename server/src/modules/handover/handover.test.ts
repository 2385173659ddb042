import { createHash } from 'node:crypto';
import type { AuditRecords } from '@zubrell/contract/audit';
import type { AgedDocuments, ClientMoney } from '@zubrell/contract/reports';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { ofxFile } from '../../testing/files.ts';
import { joinedAs } from '../../testing/joinedAs.ts';
import { setScene } from '../../testing/scene.ts';
import { unzipped, zipped } from '../../testing/zip.ts';

const scene = setScene();
let mo: Bookkeeper;
let everyday: string;
beforeEach(() => {
  mo = bookkeeper(scene.client, scene.books.id);
  everyday = scene.books.bankAccountId;
});

async function handOver(from: string, to: string, client = scene.client): Promise<Buffer> {
  const answer = await scene.harness.app.inject({
    method: 'GET',
    url: `/api/books/${scene.books.id}/hand-over?from=${from}&to=${to}`,
    headers: { cookie: client.cookie },
  });
  if (answer.statusCode !== 200) throw new Error(answer.json().code);
  return answer.rawPayload;
}

/** Reads an archive into new books. */
async function read(file: Buffer): Promise<Bookkeeper> {
  const answer = await scene.harness.app.inject({
    method: 'POST',
    url: '/api/archives?fileName=books.zip',
    headers: { cookie: scene.client.cookie, 'content-type': 'application/octet-stream' },
    payload: file,
  });
  if (answer.statusCode !== 200) throw new Error(`${answer.json().code}: ${answer.json().title}`);
  return bookkeeper(scene.client, answer.json().id);
}

/** What two sets of books have to have alike: balances by code, what is open, and open lines. */
async function standing(books: Bookkeeper, on: string) {
  const { accounts } = await books.setup();
  const codes = new Map(accounts.map(({ id, code }) => [id, code]));
  const balances = Object.entries(await books.balances());
  const aged = async (side: string) => {
    const place = `${books.path}/reports/aged?side=${side}&on=${on}`;
    const { documents, balance } = await scene.client.get<AgedDocuments>(place);
    return [balance, documents.map(({ number, date, open }) => [number, date, open])];
  };
  const open = (await books.open()).map(({ date, amount, description }) => [
    date,
    amount,
    description,
  ]);
  return {
    balances: Object.fromEntries(balances.map(([id, amount]) => [codes.get(id), amount])),
    receivables: await aged('receivables'),
    payables: await aged('payables'),
    open: open.sort(),
  };
}

const bill = async (number: string, date: string, amount: number) => ({
  kind: 'bill',
  side: 'payables',
  number,
  payeeId: (await mo.payee(`Payee of ${number}`)).id,
  date,
  dueDate: null,
  note: null,
  lines: [
    { text: 'Clay', accountId: await mo.accountId('5000'), taxCodeId: null, amount, tax: null },
  ],
});

/** Two months with something of everything: lines, bills open and paid in part, a cheque that is out, clients' money. */
async function fill(): Promise<void> {
  await mo.opening(everyday, '2026-01-31', 100_000);
  const fee = { date: '2026-02-03', amount: '-10.00', text: 'ACCOUNT FEE', id: 'F1' };
  const late = { date: '2026-03-04', amount: '-20.00', text: 'CARD FEE', id: 'F2' };
  await scene.books.keep('fees.ofx', ofxFile([fee, late], '970.00'));
  const freight = await mo.accountId('6010');
  const decided = (await mo.open()).find(({ description }) => description === 'ACCOUNT FEE');
  await mo.post(
    [decided?.id ?? ''],
    mo.codingTo(freight, null, await scene.books.taxCodeId('20 %')),
  );
  const paidInPart = await mo.document(await bill('1', '2026-02-05', 8_000));
  await mo.document(await bill('2', '2026-02-06', 3_000));
  await mo.document(await bill('3', '2026-03-02', 500));
  for (const [date, amount] of [
    ['2026-02-10', -3_000],
    ['2026-03-10', -1_000],
  ] as const) {
    const { id } = await mo.addLine(everyday, date, amount, `PART ${date}`);
    await mo.pair([id], [paidInPart.id], { kind: 'partPaid' });
  }
  await mo.enter({
    kind: 'cheque',
    date: '2026-02-20',
    amount: 1_200,
    payeeId: null,
    bankAccountId: everyday,
    number: '001042',
    note: null,
    parts: [{ accountId: freight, taxCodeId: null, share: { kind: 'rest' }, tax: null }],
  });
  await mo.count(everyday, '2026-03-28', 88_000);
  const copy = await mo.addLine(everyday, '2026-03-12', -777, 'TWICE');
  const again = await mo.addLine(everyday, '2026-03-12', -777, 'TWICE AGAIN');
  await mo.post([copy.id], mo.codingTo(freight));
  await mo.exclude([again.id], 'secondCopy', { [again.id]: copy.id });
  const trust = await mo.bankAccount('Clients', '88', 'clientMoney');
  const alder = await mo.payee('Alder Yard', 'customer');
  const held = await mo.accountId('2500');
  for (const [date, amount] of [
    ['2026-02-11', 9_000],
    ['2026-03-11', -2_000],
  ] as const) {
    const { id } = await mo.addLine(trust.id, date, amount, `CLIENT ${date}`);
    await mo.post([id], mo.codingTo(held, alder.id));
  }
}

describe('an archive of all there is', () => {
  it('read into new books gives the same balances, open documents and open lines', async () => {
    await fill();
    const other = await read(await handOver('2026-01-31', '2026-03-31'));
    expect(await standing(other, '2026-03-31')).toEqual(await standing(mo, '2026-03-31'));
    expect(await other.proof(undefined, '2026-03-31')).toMatchObject({
      unexplained: (await mo.proof(undefined, '2026-03-31')).unexplained,
    });
    const own = (await other.setup()).bankAccounts.find(({ name }) => name === 'Everyday');
    const { date, isStated, bank } = await mo.proof(everyday);
    expect(date).toBe('2026-03-28');
    expect(await other.proof(own?.id)).toMatchObject({ date, isStated, bank });
    // Nothing had to be brought forward: what happened is what there is.
    const notes = await scene.client.get<object>(`${other.path}/ledger-rows?search=forward`);
    expect(notes).toMatchObject({ count: 0 });
    const [{ kind, words } = { kind: '', words: '' }] = await other.steps();
    expect([kind, words]).toEqual([
      'readArchive',
      'Read an archive of Larkmoor Kiln Works, 2026-01-31 to 2026-03-31',
    ]);
    await expect(other.undo()).rejects.toThrow('STEP_ARCHIVE');
  });

  it('can be worked on as the books it was made of: paired, reopened, paid', async () => {
    await fill();
    const other = await read(await handOver('2026-01-31', '2026-03-31'));
    const [decided] = (await other.decided()).filter(({ description }) => description === 'TWICE');
    await other.reopen([decided?.id ?? '']);
    expect((await other.open()).map(({ description }) => description)).toContain('TWICE');
    const { bankAccounts } = await other.setup();
    const own = bankAccounts.find(({ name }) => name === 'Everyday')?.id ?? '';
    const cheque = await other.addLine(own, '2026-03-20', -1_200, 'CHQ 001042');
    const { entries } = await scene.client.get<{ entries: { legId: string }[] }>(
      `${other.path}/outstanding`,
    );
    expect(entries).toHaveLength(1);
    await other.pair([cheque.id], [entries[0]?.legId ?? '']);
    expect((await standing(other, '2026-03-31')).payables).toEqual(
      (await standing(mo, '2026-03-31')).payables,
    );
  });

  it('has files that people can read, and a page that names them', async () => {
    await fill();
    const files = await unzipped(await handOver('2026-01-31', '2026-03-31'));
    const page = files.get('index.html')?.toString() ?? '';
    for (const name of ['journal', 'trial-balance', 'lines', 'documents', 'history']) {
      expect(page).toContain(`${name}.csv`);
      expect(files.get(`${name}.csv`)?.length).toBeGreaterThan(50);
    }
    expect(page).not.toContain('statements.csv'); // none was agreed
    const journal = files.get('journal.csv')?.toString().split('\n') ?? [];
    expect(journal[0]).toContain('Date,Kind,Number,Payee,Note,Account,Account name,Debit,Credit');
    expect(journal.some((row) => row.includes('6010,Freight out,8.33,'))).toBe(true);
    expect(files.get('clients-money.csv')?.toString()).toContain('Clients,Alder Yard,70.00,EUR');
  });
});

describe('an archive of a period', () => {
  it('brings forward what was before it, and comes to the same on its last day', async () => {
    await fill();
    const other = await read(await handOver('2026-03-01', '2026-03-31'));
    const [was, is] = [await standing(mo, '2026-03-31'), await standing(other, '2026-03-31')];
    // What was brought forward of income and costs is in the journal of the day before.
    expect(is).toEqual(was);
    const { accounts = [] } = await scene.client.get<ClientMoney>(
      `${other.path}/reports/client-money?from=2026-03-01&to=2026-03-31`,
    );
    expect(accounts[0]).toMatchObject({ held: 7_000, unsaid: 0 });
    expect(accounts[0]?.clients).toMatchObject([{ opening: 9_000, out: -2_000, closing: 7_000 }]);
    const [opening] = (await other.setup()).bankAccounts;
    expect(opening?.opening).toMatchObject({ date: '2026-02-28' });
    const { entries } = await scene.client.get<{ entries: object[] }>(`${other.path}/outstanding`);
    expect(entries).toHaveLength(1);
  });

  it('stands as it did on its last day, whatever came later', async () => {
    await fill();
    const other = await read(await handOver('2026-01-31', '2026-02-28'));
    const { payables } = await standing(other, '2026-02-28');
    expect(payables).toEqual((await standing(mo, '2026-02-28')).payables);
    expect(await other.open()).toEqual([]);
  });
});

describe('an archive in other currencies', () => {
  it('keeps the amounts of both, and what was paid of a document', async () => {
    const dollars = await mo.bankAccount('Dollar account', 'US7', 'current', 'USD');
    await mo.dollar('2026-02-27', '0.9');
    await mo.dollar('2026-03-05', '0.95');
    await mo.opening(dollars.id, '2026-02-27', 500_000);
    const document = await mo.document({
      ...(await bill('9', '2026-03-01', 100_000)),
      currency: 'USD',
    });
    const { id } = await mo.addLine(dollars.id, '2026-03-05', -40_000, 'CLAY ABROAD');
    await mo.pair([id], [document.id], { kind: 'partPaid' });
    for (const from of ['2026-02-27', '2026-03-05']) {
      const other = await read(await handOver(from, '2026-03-31'));
      expect(await standing(other, '2026-03-31')).toEqual(await standing(mo, '2026-03-31'));
      const own = (await other.setup()).bankAccounts.find(({ currency }) => currency === 'USD');
      expect(await other.proof(own?.id)).toMatchObject({ books: 460_000 });
    }
  });
});

describe('an archive with attachments', () => {
  it('keeps them with what they were kept with, whatever their name says', async () => {
    const line = await mo.addLine(everyday, '2026-03-02', -100, 'STAMPS');
    const place = `${mo.path}/lines/${line.id}/attachments?fileName=${encodeURIComponent('../../a/b.pdf')}`;
    const kept = await scene.harness.app.inject({
      method: 'POST',
      url: place,
      headers: { cookie: scene.client.cookie, 'content-type': 'application/octet-stream' },
      payload: Buffer.from('%PDF-1.4 stamps'),
    });
    const { id } = kept.json();
    const file = await handOver('2026-03-01', '2026-03-31');
    const names = [...(await unzipped(file)).keys()].filter((name) => name.includes(id));
    expect(names).toEqual([`attachments/${id}/_.._.._a_b.pdf`.replace('_.._.._', '__.._')]);
    const other = await read(file);
    const attachment = await scene.harness.app.inject({
      method: 'GET',
      url: `${other.path}/attachments/${id}`,
      headers: { cookie: scene.client.cookie },
    });
    expect(attachment.body).toBe('%PDF-1.4 stamps');
  });
});

describe('a file that is no whole archive', () => {
  it('is refused with what is wrong, and no books are made', async () => {
    await fill();
    const books = async () =>
      (await scene.client.get<{ books: object[] }>('/api/books')).books.length;
    const before = await books();
    const whole = await handOver('2026-01-31', '2026-03-31');
    const spoiled = async (change: (files: Map<string, Buffer>) => void) => {
      const files = await unzipped(whole);
      change(files);
      return read(await zipped(files));
    };
    const set = (files: Map<string, Buffer>, name: string, content: string) => {
      files.set(name, Buffer.from(content));
      const manifest = JSON.parse(files.get('data/manifest.json')?.toString() ?? '');
      manifest.files[name] = createHash('sha256').update(content).digest('hex');
      files.set('data/manifest.json', Buffer.from(JSON.stringify(manifest)));
    };
    const legs = (await unzipped(whole)).get('data/legs.csv')?.toString() ?? '';
    const lines = (await unzipped(whole)).get('data/decisions.csv')?.toString() ?? '';
    await expect(read(Buffer.from('not a zip'))).rejects.toThrow('ARCHIVE_UNREADABLE');
    await expect(read(whole.subarray(0, whole.length / 2))).rejects.toThrow('ARCHIVE_UNREADABLE');
    await expect(spoiled((files) => files.delete('data/manifest.json'))).rejects.toThrow(
      'ARCHIVE_UNREADABLE',
    );
    await expect(spoiled((files) => files.delete('data/legs.csv'))).rejects.toThrow('ARCHIVE_FILE');
    // Changed without its sum.
    await expect(
      spoiled((files) => files.set('data/legs.csv', Buffer.from(legs.replace('1000', '1001')))),
    ).rejects.toThrow('ARCHIVE_FILE');
    // Changed with its sum: entries that don't balance, and words that aren't any.
    await expect(
      spoiled((files) => set(files, 'data/legs.csv', legs.replace(',-1000,', ',-1001,'))),
    ).rejects.toThrow(/ARCHIVE_BALANCES|ENTRY_UNBALANCED/);
    await expect(
      spoiled((files) => set(files, 'data/decisions.csv', lines.replace(',posted,', ',guessed,'))),
    ).rejects.toThrow('there is no kind “guessed”');
    await expect(
      spoiled((files) => set(files, 'data/decisions.csv', lines.replace('accountId', 'accountIx'))),
    ).rejects.toThrow('a coding can’t be read');
    await expect(
      spoiled((files) => set(files, 'data/legs.csv', legs.replace('position', 'positions'))),
    ).rejects.toThrow('ARCHIVE_FILE');
    expect(await books()).toBe(before);
  });
});

describe('handing over', () => {
  it('is for those who may read the books, of a period that begins before it ends', async () => {
    await expect(handOver('2026-03-01', '2026-03-31')).rejects.toThrow('ARCHIVE_EMPTY');
    await mo.addLine(everyday, '2026-03-02', -100, 'STAMPS');
    await expect(handOver('2026-03-31', '2026-03-01')).rejects.toThrow('REPORT_TURNED');
    await handOver('2026-03-01', '2026-03-31');
    const { items } = await scene.client.get<AuditRecords>(`${mo.path}/records`);
    expect(items.find(({ kind }) => kind === 'exported')?.details).toEqual({
      what: 'archive',
      from: '2026-03-01',
      to: '2026-03-31',
    });
    const hanne = await joinedAs(scene, 'Hanne Abelgard', 'client');
    await expect(handOver('2026-03-01', '2026-03-31', hanne)).rejects.toThrow('ROLE');
  });
});
