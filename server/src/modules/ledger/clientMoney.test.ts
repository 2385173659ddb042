import type { Coding } from '@zubrell/contract/coding';
import type { ClientMoney } from '@zubrell/contract/reports';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let trust: string;
let alder: string;
let birch: string;
let held: string;

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  trust = (await mo.bankAccount('Clients', '88', 'clientMoney')).id;
  alder = (await mo.payee('Alder Yard', 'customer')).id;
  birch = (await mo.payee('Birch House', 'customer')).id;
  held = await mo.accountId('2500');
});

const report = async (from = '2026-03-01', to = '2026-03-31') => {
  const query = `from=${from}&to=${to}`;
  const { accounts } = await scene.client.get<ClientMoney>(
    `${mo.path}/reports/client-money?${query}`,
  );
  return accounts[0];
};
const balances = async () => {
  const { clients = [] } = (await report()) ?? {};
  return Object.fromEntries(clients.map(({ clientId, closing }) => [clientId, closing]));
};
/** A coding to what is held for clients. */
const forClient = (clientId: string | null, payeeId: string | null = null): Coding => ({
  payeeId,
  note: null,
  parts: [{ accountId: held, taxCodeId: null, share: { kind: 'rest' }, tax: null, clientId }],
});
/** Money of a client that came in. */
async function takeIn(clientId: string, date: string, amount: number) {
  const { id } = await mo.addLine(trust, date, amount, `IN ${date} ${amount}`);
  return mo.post([id], forClient(clientId));
}

describe('a bank account that holds clients’ money', () => {
  it('wants the client on every line, or a customer as the payee', async () => {
    const { id } = await mo.addLine(trust, '2026-03-02', 10_000, 'DEPOSIT');
    await expect(mo.post([id], forClient(null))).rejects.toThrow('CLIENT_MISSING');
    const court = await mo.payee('Saltmarsh Court');
    await expect(mo.post([id], forClient(null, court.id))).rejects.toThrow('CLIENT_MISSING');
    await mo.post([id], forClient(null, alder));
    expect(await balances()).toEqual({ [alder]: 10_000 });
    const paid = await mo.addLine(trust, '2026-03-03', -2_500, 'COURT FEE');
    await mo.post([paid.id], forClient(alder, court.id));
    expect(await report()).toMatchObject({
      held: 7_500,
      unsaid: 0,
      clients: [{ clientId: alder, opening: 0, in: 10_000, out: -2_500, closing: 7_500 }],
    });
    expect(await mo.balance('2500')).toBe(-7_500);
  });

  it('takes one line for several clients, part by part', async () => {
    const { id } = await mo.addLine(trust, '2026-03-02', 10_000, 'TWO AT ONCE');
    const part = { accountId: held, taxCodeId: null, tax: null };
    const coding: Coding = {
      payeeId: null,
      note: null,
      parts: [
        { ...part, share: { kind: 'fixed', amount: 6_000 }, clientId: alder },
        { ...part, share: { kind: 'rest' }, clientId: birch },
      ],
    };
    await mo.post([id], coding);
    expect(await balances()).toEqual({ [alder]: 6_000, [birch]: 4_000 });
    await mo.recode([id], { payeeId: birch });
    expect(await balances()).toEqual({ [alder]: 6_000, [birch]: 4_000 });
    await mo.reopen([id]);
    expect(await report()).toMatchObject({ held: 0, clients: [] });
  });

  it('refuses what would leave a client below zero at the end of any day', async () => {
    await takeIn(alder, '2026-03-10', 10_000);
    await takeIn(birch, '2026-03-01', 50_000);
    const early = await mo.addLine(trust, '2026-03-09', -4_000, 'EARLY');
    const below = { step: null, leftOut: [{ code: 'CLIENT_BELOW_ZERO' }] };
    expect(await mo.post([early.id], forClient(alder))).toMatchObject(below);
    const much = await mo.addLine(trust, '2026-03-11', -10_001, 'MUCH');
    expect(await mo.post([much.id], forClient(alder))).toMatchObject(below);
    const all = await mo.addLine(trust, '2026-03-10', -10_000, 'ALL');
    await mo.post([all.id], forClient(alder));
    expect(await balances()).toMatchObject({ [birch]: 50_000 });
    await expect(mo.recode([all.id], { payeeId: birch, accountId: held })).resolves.toMatchObject({
      leftOut: [],
    });
  });

  it('keeps a line’s client when it is recoded, and refuses to give it to one who has too little', async () => {
    await takeIn(alder, '2026-03-01', 5_000);
    const { id } = await mo.addLine(trust, '2026-03-04', -4_000, 'FEE');
    await mo.post([id], forClient(null, alder));
    await expect(mo.recode([id], { payeeId: birch })).rejects.toThrow('CLIENT_BELOW_ZERO');
    expect(await balances()).toEqual({ [alder]: 1_000 });
  });

  it('leaves out of many lines only those that a client’s money doesn’t cover', async () => {
    await takeIn(alder, '2026-03-01', 5_000);
    const ids: string[] = [];
    for (const [day, amount] of [
      ['04', -3_000],
      ['02', -1_500],
      ['03', -1_000],
    ] as const) {
      ids.push((await mo.addLine(trust, `2026-03-${day}`, amount, `FEE ${day}`)).id);
    }
    const { done, leftOut } = await mo.post(ids, forClient(alder));
    expect(done).toHaveLength(2);
    expect(leftOut).toMatchObject([{ lineId: ids[0] }]);
    expect(await balances()).toEqual({ [alder]: 2_500 });
  });

  it('doesn’t let undo take away what was spent since', async () => {
    const { step } = await takeIn(alder, '2026-03-01', 5_000);
    const { id } = await mo.addLine(trust, '2026-03-04', -3_000, 'FEE');
    const paid = await mo.post([id], forClient(alder));
    await expect(mo.undo(step)).rejects.toThrow('CLIENT_BELOW_ZERO');
    expect(await balances()).toEqual({ [alder]: 2_000 });
    await mo.undo(paid.step);
    await mo.undo(step);
    await expect(mo.redo(paid.step)).rejects.toThrow('CLIENT_BELOW_ZERO');
    expect(await balances()).toEqual({});
  });

  it('says of transfers whose money moves, on either side', async () => {
    await takeIn(alder, '2026-03-01', 5_000);
    const transfer = {
      kind: 'transfer',
      date: '2026-03-05',
      note: null,
      bankAccountId: trust,
      toBankAccountId: scene.books.bankAccountId,
      amount: 1_200,
    };
    await expect(mo.enter(transfer)).rejects.toThrow('CLIENT_MISSING');
    await mo.enter({ ...transfer, clientId: alder });
    expect(await balances()).toEqual({ [alder]: 3_800 });
    // The other half comes from the office's own account.
    const line = await mo.addLine(scene.books.bankAccountId, '2026-03-06', -700, 'TO CLIENTS');
    const { bankAccounts } = await mo.setup();
    const trustLedger = bankAccounts.find(({ id }) => id === trust)?.accountId ?? '';
    await expect(mo.post([line.id], mo.codingTo(trustLedger))).rejects.toThrow('CLIENT_MISSING');
    const coding = forClient(birch);
    const [part] = coding.parts;
    if (part) await mo.post([line.id], { ...coding, parts: [{ ...part, accountId: trustLedger }] });
    expect(await balances()).toEqual({ [alder]: 3_800, [birch]: 700 });
  });

  it('pays invoices of its clients, and nobody else’s', async () => {
    await takeIn(alder, '2026-03-01', 5_000);
    const supplier = await mo.payee('Penhallow Clay');
    const facts = {
      number: '7',
      date: '2026-03-02',
      dueDate: null,
      note: null,
      lines: [
        {
          text: 'Work',
          accountId: await mo.accountId('6010'),
          taxCodeId: null,
          amount: 900,
          tax: null,
        },
      ],
    };
    const bill = await mo.document({
      ...facts,
      kind: 'bill',
      side: 'payables',
      payeeId: supplier.id,
    });
    const out = await mo.addLine(trust, '2026-03-05', -900, 'CLAY');
    await expect(mo.pair([out.id], [bill.id])).rejects.toThrow('CLIENT_MISSING');
    const invoice = await mo.document({
      ...facts,
      kind: 'invoice',
      side: 'receivables',
      payeeId: birch,
    });
    const paid = await mo.addLine(trust, '2026-03-06', 900, 'BIRCH');
    await mo.pair([paid.id], [invoice.id]);
    expect(await balances()).toEqual({ [alder]: 5_000, [birch]: 900 });
  });

  it('opens with what is known of whose it is, and no more than there is', async () => {
    const opening = (clients: object[]) =>
      scene.client.send('POST', `${mo.path}/bank-accounts/${trust}/opening`, {
        date: '2026-02-28',
        amount: 9_000,
        clients,
      });
    await expect(opening([{ clientId: alder, amount: 9_001 }])).rejects.toThrow('CLIENT_SHARES');
    await opening([{ clientId: alder, amount: 6_000 }]);
    expect(await report()).toMatchObject({
      held: 9_000,
      unsaid: 3_000,
      clients: [{ clientId: alder, opening: 6_000, closing: 6_000 }],
    });
  });

  it('is told later whose an opening balance is, which a file may have brought', async () => {
    const name = (clients: object[]) =>
      scene.client.send<{ step: number }>(
        'PUT',
        `${mo.path}/bank-accounts/${trust}/opening/clients`,
        { clients },
      );
    await expect(name([])).rejects.toThrow('OPENING_MISSING');
    await mo.opening(trust, '2026-02-28', 9_000);
    const fee = await mo.addLine(trust, '2026-03-04', -4_000, 'FEE');
    expect(await mo.post([fee.id], forClient(alder))).toMatchObject({
      leftOut: [{ code: 'CLIENT_BELOW_ZERO' }],
    });
    await expect(name([{ clientId: alder, amount: 9_001 }])).rejects.toThrow('CLIENT_SHARES');
    const { step } = await name([
      { clientId: alder, amount: 5_000 },
      { clientId: birch, amount: 4_000 },
    ]);
    await mo.post([fee.id], forClient(alder));
    expect(await report()).toMatchObject({ held: 5_000, unsaid: 0 });
    expect(await balances()).toEqual({ [alder]: 1_000, [birch]: 4_000 });
    const { opening } = (await mo.setup()).bankAccounts.find(({ id }) => id === trust) ?? {};
    expect(opening).toMatchObject({
      amount: 9_000,
      clients: [{ clientId: alder, amount: 5_000 }, { clientId: birch }],
    });
    // Taken back, Alder would have spent what nobody said was Alder's.
    await expect(mo.undo(step)).rejects.toThrow('CLIENT_BELOW_ZERO');
    await mo.reopen([fee.id]);
    await mo.undo(step);
    expect(await report()).toMatchObject({ held: 9_000, unsaid: 9_000, clients: [] });
  });

  it('counts payees that are one as one client', async () => {
    await takeIn(alder, '2026-03-01', 5_000);
    await takeIn(birch, '2026-03-02', 1_000);
    await scene.client.send('POST', `${mo.path}/payees/${birch}/merge`, { into: alder });
    expect(await balances()).toEqual({ [alder]: 6_000 });
    const { id } = await mo.addLine(trust, '2026-03-04', -5_500, 'FEE');
    await mo.post([id], forClient(birch));
    expect(await balances()).toEqual({ [alder]: 500 });
  });

  it('proposes a line without its client for a look, and with a customer as ready as any', async () => {
    for (const day of ['01', '02', '03', '04', '05', '06']) {
      const { id } = await mo.addLine(trust, `2026-03-${day}`, 1_000, 'ALDER YARD RENT');
      await mo.post([id], forClient(null, alder));
    }
    await mo.addLine(trust, '2026-03-08', 1_000, 'ALDER YARD RENT');
    const [open] = await mo.open(trust);
    expect(open?.proposal).toMatchObject({ kind: 'post', coding: { payeeId: alder } });
    expect(JSON.stringify(open?.proposal)).not.toContain('clientId');
    const court = await mo.payee('Saltmarsh Court');
    for (const day of ['11', '12', '13', '14', '15', '16']) {
      const { id } = await mo.addLine(trust, `2026-03-${day}`, -100, 'SALTMARSH COURT FEES');
      await mo.post([id], forClient(alder, court.id));
    }
    await mo.addLine(trust, '2026-03-18', -100, 'SALTMARSH COURT FEES');
    const fee = (await mo.open(trust)).find(({ amount }) => amount < 0);
    expect(fee?.proposal).toMatchObject({ kind: 'post' });
    const { doubts = [] } = fee?.proposal?.kind === 'post' ? fee.proposal : {};
    expect(doubts).toContainEqual({ kind: 'incomplete', missing: ['clientId'] });
  });
});

describe('the database', () => {
  it('holds shares to what moves, whoever writes them', async () => {
    await takeIn(alder, '2026-03-01', 5_000);
    const { rows } = await scene.harness.database.execute<{ rights: string }>(
      `select string_agg(privilege_type, ',' order by privilege_type) as rights
       from information_schema.role_table_grants
       where table_name = 'client_shares' and grantee = 'zubrell_app'`,
    );
    // What was written stays: neither changed nor deleted.
    expect(rows).toEqual([{ rights: 'INSERT,SELECT' }]);
  });
});
