import type { BankStatement } from '@zubrell/core/formats/bankFile';
import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { describe, expect, it } from 'vitest';
import type { Account, BankItem } from './records.ts';
import { type Asked, report } from './report.ts';
import type { Switch } from './switches.ts';

const item = (
  id: string,
  date: string,
  amount: number,
  more: Partial<BankItem> = {},
): BankItem => ({
  id,
  date,
  amount,
  announced: null,
  announcedAmount: null,
  wording: `TIDEMARK FRT ${id}`,
  reference: null,
  ...more,
});

const account: Account = {
  id: 'everyday',
  name: 'Everyday',
  number: '4471',
  kind: 'current',
  currency: 'EUR',
  opening: 100_000,
  format: 'camt053',
  items: [
    item('A', '2026-03-01', -4_850),
    item('B', '2026-03-10', 64_000),
    item('C', '2026-03-20', -1_200),
    item('D', '2026-03-23', -9_900, { announced: '2026-03-20', announcedAmount: -10_000 }),
  ],
};

const asked = (more: Partial<Asked> = {}): Asked => ({
  from: '2026-03-05',
  to: '2026-03-31',
  today: '2026-03-20',
  answer: 1,
  troubles: new Set(),
  told: new Set(),
  ...more,
});

async function read(wanted: Asked, of: Account = account): Promise<BankStatement> {
  const text = report(of, wanted);
  const { statements } = await readBankFile(Buffer.from(text), { currency: 'EUR' });
  const [statement] = statements;
  if (!statement) throw new Error('the bank told no statement');
  return statement;
}
const booked = ({ lines }: BankStatement) =>
  lines.filter(({ isPending }) => !isPending).map(({ bankId }) => bankId);
const worse = (name: Switch, more: Partial<Asked> = {}) =>
  asked({ troubles: new Set([name]), ...more });

describe('what the bank tells', () => {
  it('is what was booked in the asked days, up to today, with the balances around it', async () => {
    const told = await read(asked());
    expect(booked(told)).toEqual(['B', 'C']);
    expect(told).toMatchObject({
      account: '4471',
      opening: 95_150,
      closing: 157_950,
      closingDate: '2026-03-20',
    });
  });

  it('has what is announced apart, and in camt only', async () => {
    const { lines } = await read(asked());
    expect(lines.filter(({ isPending }) => isPending)).toMatchObject([
      { date: '2026-03-20', amount: -10_000 },
    ]);
    const ofx = await read(asked(), { ...account, format: 'ofx' });
    expect(booked(ofx)).toEqual(['B', 'C']);
    expect(ofx.lines).toHaveLength(2);
  });

  it('tells the booked amount once the day has come', async () => {
    const { lines, closing } = await read(asked({ today: '2026-03-23' }));
    expect(lines.at(-1)).toMatchObject({ bankId: 'D', amount: -9_900, isPending: false });
    expect(closing).toBe(148_050);
  });
});

describe('a switch', () => {
  it('sends lines twice, and older ones again', async () => {
    expect(booked(await read(worse('resend', { from: '2026-03-12' })))).toEqual([
      'A',
      'B',
      'C',
      'A',
      'B',
      'C',
    ]);
  });

  it('gives each answer ids of its own', async () => {
    expect(booked(await read(worse('newIds', { answer: 7 })))).toEqual(['B-7', 'C-7']);
  });

  it('holds back only new lines, with the balance, and never unsays one', async () => {
    // Letters whose codes divide by three are held back: of A to D that is B (66) alone.
    const late: Partial<Asked> = { today: '2026-03-10' };
    const held = await read(worse('holdBack', late));
    expect(booked(held)).toEqual([]);
    expect(held.closing).toBe(95_150);
    expect(booked(await read(worse('holdBack', { ...late, told: new Set(['B']) })))).toEqual(['B']);
    expect(booked(await read(worse('holdBack', { today: '2026-03-14' })))).toEqual(['B']);
  });

  it('changes what is announced, not what is booked', async () => {
    const { lines } = await read(worse('changeAnnounced'));
    expect(lines.map(({ amount }) => amount)).toEqual([64_000, -1_200, -11_200]);
  });

  it('breaks an answer off', () => {
    const whole = report(account, asked());
    const broken = report(account, worse('cutOff'));
    expect(whole.startsWith(broken)).toBe(true);
    expect(broken.length).toBeLessThan(whole.length);
  });
});
