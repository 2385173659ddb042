import type { MonthClosing, ReviewSample } from '@zubrell/contract/closing';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { ofxFile } from '../../testing/files.ts';
import { joinedAs } from '../../testing/joinedAs.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let everyday: string;

const MONTH = '2026-03';
const END = '2026-03-31';
const SEEN = 1_000_000;

const closing = (client = scene.client) => client.get<MonthClosing>(`${mo.path}/closings/${MONTH}`);
const act = (action: string, note = '', client = scene.client, seenStep = SEEN) =>
  client.send<{ step: number }>('POST', `${mo.path}/closings/${MONTH}`, { action, note, seenStep });
const check = async (kind: string) => (await closing()).checks.find((each) => each.kind === kind);

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  everyday = scene.books.bankAccountId;
  await mo.opening(everyday, '2026-02-28', 100_000);
  const at = (day: string, amount: string, text: string) => ({
    date: `2026-03-${day}`,
    amount,
    text,
    id: text,
  });
  const lines = [
    at('03', '-248.50', 'TIDEMARK'),
    at('09', '-58.00', 'ORRIN'),
    at('20', '900.00', 'SALE'),
  ];
  await scene.books.keep('march.ofx', ofxFile(lines, '1593.50'), { withOpening: false });
});

const lineOf = async (text: string) =>
  (await mo.open()).find(({ description }) => description === text)?.id ?? '';
const postAll = async () => {
  const costs = mo.codingTo(await mo.accountId('6010'));
  await mo.post([await lineOf('TIDEMARK'), await lineOf('ORRIN')], costs);
  await mo.post([await lineOf('SALE')], mo.codingTo(await mo.accountId('4010')));
};
const agree = async () => {
  await mo.closingBalance(everyday, END, 159_350);
  await mo.agree(everyday, END);
};

describe('what stands in the way of closing a month', () => {
  it('is counted, each with its amount and age', async () => {
    expect(await check('openLines')).toMatchObject({ count: 3, oldest: '2026-03-03' });
    await mo.ask([await lineOf('ORRIN')]);
    expect(await check('openLines')).toMatchObject({ count: 2 });
    expect(await check('questions')).toMatchObject({ count: 1, amount: 5_800, who: 'Ida Fennick' });
    await mo.post([await lineOf('TIDEMARK')], mo.codingTo(await mo.accountId('6010')));
    expect(await check('receipts')).toMatchObject({ count: 1, of: 1, amount: 24_850 });
    await mo.settings({ receiptFrom: null });
    expect(await check('receipts')).toMatchObject({ count: 0 });
    await mo.post([await lineOf('SALE')], mo.codingTo(await mo.accountId('1090')));
    expect(await check('transit')).toMatchObject({ count: 1, amount: -90_000 });
    const { accounts, result } = await closing();
    expect(accounts).toMatchObject([{ isAgreed: false, statement: { to: END } }]);
    expect(result).toBe(-24_850);
  });

  it('is what waits for its other side longer than the books allow', async () => {
    const { id: pot } = await mo.bankAccount('Tax pot', null);
    const { accountId = '' } = (await mo.setup()).bankAccounts.find(({ id }) => id === pot) ?? {};
    await mo.post([await lineOf('TIDEMARK')], mo.codingTo(accountId));
    expect(await check('transit')).toMatchObject({ count: 1, oldest: '2026-03-03' });
    const { ages } = (await mo.setup()).books;
    await mo.settings({ ages: { ...ages, transit: 40 } });
    expect(await check('transit')).toMatchObject({ count: 0 });
  });
});

describe('what came after the tax of a month was reported', () => {
  it('is counted, whether it counts in the month or later, and not what came before', async () => {
    await mo.post([await lineOf('TIDEMARK')], mo.codingTo(await mo.accountId('6010')));
    expect(await check('afterReport')).toMatchObject({ count: 0 });
    const { step } = await mo.reportedElsewhere(END);
    expect(await check('afterReport')).toMatchObject({ count: 0 });
    await mo.post([await lineOf('ORRIN')], mo.codingTo(await mo.accountId('6010')));
    expect(await check('afterReport')).toMatchObject({
      count: 1,
      amount: 5_800,
      oldest: '2026-03-09',
    });
    await mo.settings({ lockDate: END });
    await mo.post([await lineOf('SALE')], mo.codingTo(await mo.accountId('4010')));
    expect(await check('afterReport')).toMatchObject({ count: 2, amount: 95_800 });
    expect((await mo.setup()).books.taxReportedTo).toBe(END);
    await mo.undo(step);
    expect(await check('afterReport')).toMatchObject({ count: 0 });
    expect((await mo.setup()).books.taxReportedTo).toBeNull();
  });
});

describe('payments that may belong to the year before', () => {
  it('are counted where they were coded to costs with no bill', async () => {
    const { id } = await mo.addLine(everyday, '2026-03-02', -5_000, 'GORSEFIELD GAS 28.12.2025');
    expect(await check('cutOff')).toMatchObject({ count: 0 });
    await mo.post([id], mo.codingTo(await mo.accountId('6050')));
    await mo.post([await lineOf('TIDEMARK')], mo.codingTo(await mo.accountId('6010')));
    expect(await check('cutOff')).toMatchObject({ count: 1, amount: 5_000, oldest: '2026-03-02' });
  });
});

describe('closing a month', () => {
  it('asks for words where something is open, and locks the books', async () => {
    await postAll();
    await expect(act('close')).rejects.toThrow('CLOSING_NOTE_NEEDED');
    expect((await mo.setup()).books.lockDate).toBeNull();
    await agree();
    await mo.settings({ receiptFrom: null });
    const { step } = await act('close');
    expect(await closing()).toMatchObject({ state: 'closed', closed: { by: 'Mo Oakes' } });
    expect((await mo.setup()).books.lockDate).toBe(END);
    await expect(act('close')).rejects.toThrow('CLOSING_STATE');
    await mo.undo(step);
    expect((await mo.setup()).books.lockDate).toBeNull();
    expect((await closing()).state).toBeNull();
    await mo.redo(step);
    expect((await mo.setup()).books.lockDate).toBe(END);
    await act('reopen', 'A bill was missing');
    expect((await mo.setup()).books.lockDate).toBe('2026-02-28');
    expect(await closing()).toMatchObject({ state: 'reopened', note: 'A bill was missing' });
  });

  it('is refused while somebody else posts, and before the month is over', async () => {
    const { seenStep } = await closing();
    const ines = await joinedAs(scene, 'Ines Varga', 'bookkeeper');
    await bookkeeper(ines, scene.books.id).addLine(everyday, '2026-03-28', -100, 'MILK');
    await expect(act('close', 'Fine', scene.client, seenStep)).rejects.toThrow('CLOSING_CHANGED');
    expect((await mo.setup()).books.lockDate).toBeNull();
    const later = { action: 'close', note: 'Fine', seenStep: SEEN };
    await expect(scene.client.send('POST', `${mo.path}/closings/2099-01`, later)).rejects.toThrow(
      'CLOSING_NOT_OVER',
    );
  });

  it('keeps who prepared it, who sent it back, and who reviewed it', async () => {
    const petra = await joinedAs(scene, 'Petra Lindqvist', 'reviewer');
    await act('prepare', 'Ready for you');
    await act('sendBack', 'The clay bill is missing', petra);
    expect(await closing(petra)).toMatchObject({
      state: 'sentBack',
      note: 'The clay bill is missing',
      prepared: { by: 'Mo Oakes' },
    });
    await act('prepare', 'Added');
    await act('review', 'Seen', petra);
    expect(await closing()).toMatchObject({ reviewed: { by: 'Petra Lindqvist' }, note: 'Seen' });
    await mo.settings({ leaves: { setAside: [], letRulesPost: [], close: [], reopen: [] } });
    await expect(act('close', 'Fine', petra)).rejects.toThrow('LEAVE_NEEDED');
  });

  it('lets a reviewer with leave set lines aside and undo that, and nothing of others', async () => {
    const petra = bookkeeper(await joinedAs(scene, 'Petra Lindqvist', 'reviewer'), scene.books.id);
    const sale = await lineOf('SALE');
    const tooEarly = [(await mo.addLine(everyday, '2026-02-10', -100, 'OLD')).id];
    await expect(petra.exclude(tooEarly, 'beforeOpening')).rejects.toThrow('LEAVE_NEEDED');
    const { leaves } = (await mo.setup()).books;
    await mo.settings({ leaves: { ...leaves, setAside: ['reviewer'] } });
    const { step } = await petra.exclude(tooEarly, 'beforeOpening');
    expect(await check('openLines')).toMatchObject({ count: 3 });
    await petra.undo(step ?? 0);
    expect(await check('openLines')).toMatchObject({ count: 4 });
    const own = await mo.ask([sale]);
    await expect(petra.undo(own.step ?? 0)).rejects.toThrow('ROLE_TOO_LOW');
    expect(await check('questions')).toMatchObject({ count: 1 });
  });

  it('counts the lines of the sample that a reviewer has looked at', async () => {
    await postAll();
    const petra = await joinedAs(scene, 'Petra Lindqvist', 'reviewer');
    const path = `${mo.path}/closings/${MONTH}`;
    const { lines, lineCount } = await petra.get<ReviewSample>(`${path}/sample`);
    expect([lines.length, lineCount, lines[0]?.text]).toEqual([3, 3, 'SALE']);
    const lineIds = lines.slice(0, 2).map(({ id }) => id);
    await petra.send('POST', `${path}/review-lines`, { lineIds });
    const again = await petra.get<ReviewSample>(`${path}/sample`);
    expect(again.lines.map(({ reviewedBy }) => reviewedBy)).toEqual([
      'Petra Lindqvist',
      'Petra Lindqvist',
      null,
    ]);
    expect((await closing()).reviewedCount).toBe(2);
  });
});
