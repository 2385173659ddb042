import type { LineId } from '@zubrell/core/ids';
import { bookkeeper } from '../bookkeeper.ts';
import type { Client, TestBooks } from '../client.ts';
import { ofxFile } from '../files.ts';
import type { Known } from './schemaValues.ts';

/** Fills books with one of each thing. @returns their ids, by the names that requests have for them */
export async function fuzzBooks(client: Client, books: TestBooks): Promise<Known> {
  const mo = bookkeeper(client, books.id);
  const path = `/api/books/${books.id}`;
  const payee = await mo.payee('Tidemark Freight');
  const other = await mo.payee('Penhallow Clay');
  const texts = ['TIDEMARK FRT', 'PENHALLOW CLAY', 'NETTLE AND THREAD', 'STRAẞE', 'ORRIN BELL'];
  const lines = texts.map((text, index) => ({
    date: `2026-03-0${index + 1}`,
    amount: `${index === 2 ? '' : '-'}4${index}.50`,
    text,
    id: `F${index}`,
  }));
  const { id: batchId } = await books.keep('march.ofx', ofxFile(lines, '500.00'));
  const { items } = await client.get<{ items: { lineId: LineId }[] }>(
    `${path}/batches/${batchId}/lines`,
  );
  const [lineId = '', decided = '', another = ''] = items.map((each) => each.lineId);
  const accountId = await books.accountId('6010');
  await mo.post([decided], mo.codingTo(accountId));
  const savings = await mo.bankAccount('Savings', '99');
  const part = { accountId, taxCodeId: null, share: { kind: 'rest' }, tax: null };
  const entry = await mo.enter({
    kind: 'cheque',
    date: '2026-03-04',
    amount: 1_200,
    payeeId: payee.id,
    bankAccountId: books.bankAccountId,
    number: '1',
    note: null,
    parts: [part],
  });
  const bill = await mo.document({
    kind: 'bill',
    side: 'payables',
    number: '2093',
    payeeId: payee.id,
    date: '2026-03-02',
    dueDate: null,
    lines: [{ text: 'Freight', accountId, taxCodeId: null, amount: 4_050, tax: null }],
    note: null,
  });
  // What an electronic invoice has to say.
  await mo.settings({ address: 'Kiln Lane 4', country: 'XX', taxNumber: 'XX9' });
  const invoice = await mo.document({
    kind: 'invoice',
    side: 'receivables',
    number: '1050',
    payeeId: other.id,
    date: '2026-03-02',
    dueDate: null,
    lines: [{ text: 'Bowls', accountId, taxCodeId: null, amount: 7_777, tax: null }],
    note: null,
  });
  const rule = await client.send<{ id: string }>('POST', `${path}/rules`, {
    name: 'Clay',
    isOn: true,
    body: {
      takes: {
        direction: 'out',
        bankAccountIds: null,
        match: 'all',
        conditions: [{ kind: 'text', field: 'wording', test: 'has', text: 'clay', isExact: false }],
      },
      result: { kind: 'code', payee: { kind: 'open' }, parts: [part], note: null },
      after: { kind: 'hold' },
    },
    seenStep: 1e9,
  });
  const plan = await client.send<{ id: string }>('POST', `${path}/journal-plans`, {
    name: 'Rent',
    payeeId: null,
    note: null,
    legs: [
      { accountId, amount: 100 },
      { accountId: await books.accountId('2100'), amount: -100 },
    ],
    rhythm: 'month',
    startDate: '2026-03-31',
    endDate: null,
    isReversing: true,
  });
  const object = (kind: string) =>
    client.send<{ id: string }>('POST', `${path}/cost-objects`, { kind, name: 'Harbour' });
  const costCentre = await object('costCentre');
  const job = await object('job');
  await mo.ask([another]);
  const setup = await books.setup();
  const uploadId = await client.upload(books.id, 'april.ofx', ofxFile(lines.slice(1), '1.00'));
  return {
    stepNo: '1',
    anyId: '7b0e4c1e-5d3a-4a6b-9a55-0d1c2b3a4f5e',
    booksId: books.id,
    bankAccountId: books.bankAccountId,
    bankAccountIds: books.bankAccountId,
    toBankAccountId: savings.id,
    payeeId: payee.id,
    intoId: other.id,
    accountId,
    taxCodeId: setup.taxCodes[0]?.id ?? null,
    costCentreId: costCentre.id,
    jobId: job.id,
    lineId,
    lineIds: lineId,
    batchId,
    uploadId,
    entryId: entry.id,
    documentId: bill.id,
    documentIds: bill.id,
    invoiceId: invoice.id,
    ruleId: rule.id,
    planId: plan.id,
    userId: client.userId,
    seenStep: 1_000_000_000,
    withLater: false,
    lockDate: null,
    to: '2026-03-31',
    month: '2026-03',
    statementIndex: 0,
    stem: 'TIDEMARK FRT',
    stems: 'TIDEMARK FRT',
    share: { kind: 'rest' },
    isOn: true,
    toAccountId: accountId,
  };
}
