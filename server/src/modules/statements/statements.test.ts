import type { StepDone } from '@zubrell/contract/common';
import type { AllStatements, StatementRow, StatementRows } from '@zubrell/contract/statements';
import { beforeEach, describe, expect, it } from 'vitest';
import { cursorOf } from '../../db/cursor.ts';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { type MadeLine, ofxFile } from '../../testing/files.ts';
import { joinedAs } from '../../testing/joinedAs.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let everyday: string;
let freight: string;

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  everyday = scene.books.bankAccountId;
  freight = await mo.accountId('6010');
});

const FEBRUARY = '2026-02-28';
const MARCH = '2026-03-31';

const at = (date: string, amount: string, text: string): MadeLine => ({
  date: `2026-${date}`,
  amount,
  text,
  id: `${date} ${text} ${amount}`,
});

/** Books that open at 1,000.00 on 31 January, with lines of February and March. */
async function begin(lines: readonly MadeLine[], closing: string): Promise<void> {
  await mo.opening(everyday, '2026-01-31', 100_000);
  await scene.books.keep('lines.ofx', ofxFile(lines, closing), { withOpening: false });
}

const usual = [
  at('02-03', '-48.50', 'TIDEMARK FREIGHT'),
  at('02-14', '-58.00', 'ORRIN MOBILE'),
  at('03-02', '-12.00', 'PARCEL LOCKER'),
];

const lineOf = async (text: string) =>
  (await mo.open()).find(({ description }) => description === text)?.id ?? '';
const postAll = async () => {
  await mo.post(
    (await mo.open()).map(({ id }) => id),
    mo.codingTo(freight),
  );
};
const list = async () =>
  (await scene.client.get<AllStatements>(`${mo.path}/statements`)).accounts[0];
const codes = async (to: string) =>
  (await mo.statement(everyday, to)).hindrances.map(({ code }) => code);

describe('statements', () => {
  it('follow each other by month, each opening at what the one before comes to', async () => {
    await begin(usual, '881.50');
    const found = await list();
    expect(found?.statements.slice(0, 2)).toMatchObject([
      { from: '2026-02-01', to: FEBRUARY, opening: 100_000, addsUp: 89_350, lineCount: 2 },
      {
        from: '2026-03-01',
        to: MARCH,
        opening: 89_350,
        addsUp: 88_150,
        closing: null,
        lineCount: 1,
      },
    ]);
    await scene.client.send('PUT', `${mo.path}/bank-accounts/${everyday}/cycle`, {
      cycle: { kind: 'day', day: 8 },
    });
    expect((await list())?.statements.slice(0, 2)).toMatchObject([
      { from: '2026-02-01', to: '2026-02-08' },
      { from: '2026-02-09', to: '2026-03-08' },
    ]);
    await mo.undo();
    expect((await list())?.cycle).toEqual({ kind: 'month' });
  });

  it('are agreed only when they add up, nothing is open, and the one before is agreed', async () => {
    await begin(usual, '881.50');
    expect(await codes(FEBRUARY)).toEqual(['STATEMENT_NO_CLOSING', 'STATEMENT_LINES_OPEN']);
    expect(await codes(MARCH)).toContain('STATEMENT_BEFORE_OPEN');
    await expect(mo.agree(everyday, MARCH)).rejects.toThrow('STATEMENT_BEFORE_OPEN');
    await postAll();
    await mo.closingBalance(everyday, FEBRUARY, 83_550);
    await expect(mo.agree(everyday, FEBRUARY)).rejects.toThrow('58.00');
    await mo.closingBalance(everyday, FEBRUARY, 89_350);
    await mo.agree(everyday, FEBRUARY);
    expect(await mo.statement(everyday, FEBRUARY)).toMatchObject({
      state: 'agreed',
      agreedBy: 'Mo Oakes',
      off: 0,
      lineCount: 2,
      changes: [],
    });
    expect((await mo.setup()).bankAccounts[0]?.closedTo).toBe(FEBRUARY);
    expect((await list())?.statements[0]).toMatchObject({ state: 'agreed', lineCount: 2 });
    await expect(mo.agree(everyday, FEBRUARY)).rejects.toThrow('STATEMENT_AGREED');
    await mo.closingBalance(everyday, MARCH, 88_150);
    await mo.agree(everyday, MARCH);
    await expect(mo.reopenStatement(everyday, FEBRUARY)).rejects.toThrow('STATEMENT_AFTER_AGREED');
  });

  it('that are off look a few days beyond their edges, and at no more lines otherwise', async () => {
    await begin(
      [
        ...usual.slice(0, 2),
        at('03-02', '-12.00', 'PARCEL LOCKER'),
        at('03-09', '-12.00', 'PARCEL FAR'),
      ],
      '869.50',
    );
    const near = await lineOf('PARCEL LOCKER');
    expect(await mo.statement(everyday, FEBRUARY)).toMatchObject({ off: null, named: [] });
    // The bank counted the parcel locker in February: only it lies near enough.
    await mo.closingBalance(everyday, FEBRUARY, 88_150);
    const { explanations, named, rows, elsewhere } = await mo.statement(everyday, FEBRUARY);
    expect(explanations[0]?.causes).toMatchObject([{ lineIds: [near] }]);
    expect(named.map(({ text }) => text)).toEqual(['PARCEL LOCKER']);
    expect(rows.map(({ runsTo }) => runsTo)).toEqual([95_150, 89_350]);
    expect(elsewhere).toEqual([]);
  });

  it('refuse what can’t be, and nothing is half done', async () => {
    await begin(usual, '881.50');
    const before = await list();
    await expect(mo.closingBalance(everyday, FEBRUARY, 1, 'USD')).rejects.toThrow('USD');
    await expect(mo.endStatement(everyday, MARCH, '2026-02-20')).rejects.toThrow('STATEMENT_DATES');
    await expect(mo.closingBalance(everyday, '2026-02-27', 1)).rejects.toThrow('STATEMENT_UNKNOWN');
    expect(await list()).toEqual(before);
    await mo.closingBalance(everyday, MARCH, 88_150);
    await expect(mo.endStatement(everyday, FEBRUARY, '2026-03-05')).rejects.toThrow(
      'STATEMENT_OVERLAPS',
    );
    await mo.endStatement(everyday, FEBRUARY, '2026-02-10');
    expect((await list())?.statements.slice(0, 3)).toMatchObject([
      { to: '2026-02-10', lineCount: 1 },
      { from: '2026-02-11', to: FEBRUARY, lineCount: 1 },
      { from: '2026-03-01', to: MARCH },
    ]);
  });

  it('are not agreed while somebody else posts', async () => {
    await begin(usual, '881.50');
    await postAll();
    await mo.closingBalance(everyday, FEBRUARY, 89_350);
    const { seenStep } = await mo.statement(everyday, FEBRUARY);
    const decided = (await mo.decided()).map(({ id }) => id);
    await mo.recode(decided, { accountId: await mo.accountId('6080') });
    await expect(mo.agree(everyday, FEBRUARY, seenStep)).rejects.toThrow('STATEMENT_CHANGED');
    expect((await list())?.closedTo).toBeNull();
  });

  it('are undone and redone as one step, as long as no later one is agreed', async () => {
    await begin(usual, '881.50');
    await postAll();
    await mo.closingBalance(everyday, FEBRUARY, 89_350);
    const february = await mo.agree(everyday, FEBRUARY);
    await mo.closingBalance(everyday, MARCH, 88_150);
    const march = await mo.agree(everyday, MARCH);
    await expect(mo.undo(february.step)).rejects.toThrow(String(march.step));
    await mo.undo(march.step);
    await mo.undo(february.step);
    expect((await list())?.closedTo).toBeNull();
    await mo.redo(february.step);
    expect(await mo.statement(everyday, FEBRUARY)).toMatchObject({ state: 'agreed', off: 0 });
  });

  it('count nothing any more where agreeing is undone and nothing was said of them before', async () => {
    await begin([at('02-28', '-48.50', 'TIDEMARK FREIGHT')], '951.50');
    await postAll();
    const agreed = await mo.agree(everyday, FEBRUARY);
    expect((await list())?.statements[0]).toMatchObject({ state: 'agreed', lineCount: 1 });
    await mo.undo(agreed.step);
    expect(await mo.statement(everyday, FEBRUARY)).toMatchObject({ state: 'open', changes: [] });
    const [line] = await mo.decided();
    const opened = await mo.reopen([line?.id ?? '']);
    const moved = await mo.move([line?.id ?? ''], (await mo.bankAccount('Pot', null)).id);
    expect(moved).toMatchObject({ leftOut: [], done: [line?.id] });
    await mo.undo(moved.step);
    await mo.undo(opened.step);
    await mo.redo(agreed.step);
    expect((await list())?.statements[0]).toMatchObject({ state: 'agreed', lineCount: 1 });
  });

  it('tell what would explain a difference, until somebody says that it is none', async () => {
    const copy = at('02-16', '-58.00', 'ORRIN MOBILE');
    await begin([...usual, copy], '823.50');
    await mo.closingBalance(everyday, FEBRUARY, 89_350);
    const { explanations, off } = await mo.statement(everyday, FEBRUARY);
    expect(off).toBe(5_800);
    expect(explanations[0]).toMatchObject({
      causes: [{ kind: 'sameTwice', amount: 5_800 }],
    });
    const place = `${mo.path}/bank-accounts/${everyday}/statements/${FEBRUARY}`;
    await scene.client.send('PATCH', place, { dismiss: explanations[0]?.key });
    const after = await mo.statement(everyday, FEBRUARY);
    expect(after.explanations.map(({ key }) => key)).not.toContain(explanations[0]?.key);
    expect(after.dismissedCount).toBe(1);
    await scene.client.send('PATCH', place, { restoreDismissed: true });
    const [cause] = (await mo.statement(everyday, FEBRUARY)).explanations[0]?.causes ?? [];
    const [second = '', first = ''] = cause?.lineIds ?? [];
    await mo.exclude([second], 'secondCopy', { [second]: first });
    expect(await mo.statement(everyday, FEBRUARY)).toMatchObject({ off: 0, explanations: [] });
  });

  it('count lines at the edge in the next one, which keep their dates', async () => {
    await begin([...usual, at('02-28', '-5.00', 'COBBLE CAFE')], '876.50');
    await postAll();
    await mo.closingBalance(everyday, FEBRUARY, 89_350);
    const place = `${mo.path}/bank-accounts/${everyday}/statements/${FEBRUARY}/move-lines`;
    const cafe = (await mo.decided()).find(({ description }) => description === 'COBBLE CAFE');
    await scene.client.send('POST', place, { lineIds: [cafe?.id], into: 'next' });
    expect(await mo.statement(everyday, FEBRUARY)).toMatchObject({
      off: 0,
      elsewhere: [{ id: cafe?.id, day: '2026-03-01' }],
    });
    expect((await mo.statement(everyday, MARCH)).rows[0]).toMatchObject({
      id: cafe?.id,
      date: FEBRUARY,
      isLate: false,
    });
    await mo.undo();
    expect((await mo.statement(everyday, FEBRUARY)).off).toBe(500);
  });

  it('count entries that are ticked where no file brings lines', async () => {
    const { id: till } = await mo.bankAccount('Till float', null, 'cash');
    await mo.opening(till, '2026-01-31', 10_000);
    const payment = (amount: number) => ({
      kind: 'payment',
      date: '2026-02-10',
      note: 'Milk',
      bankAccountId: till,
      amount,
      number: null,
      payeeId: null,
      parts: mo.codingTo(freight).parts,
    });
    await mo.enter(payment(250));
    await mo.enter(payment(470));
    const { elsewhere, isTicked, addsUp } = await mo.statement(till, FEBRUARY);
    expect([isTicked, addsUp, elsewhere.length]).toEqual([true, 10_000, 2]);
    const [leg] = elsewhere.filter(({ amount }) => amount === -250);
    const place = `${mo.path}/bank-accounts/${till}/statements/${FEBRUARY}/tick-entries`;
    await scene.client.send('POST', place, { legIds: [leg?.id], isTicked: true });
    await mo.closingBalance(till, FEBRUARY, 9_750);
    await mo.agree(till, FEBRUARY);
    expect(await mo.statement(till, FEBRUARY)).toMatchObject({
      state: 'agreed',
      rows: [{ id: leg?.id, runsTo: 9_750 }],
    });
    expect(await mo.statement(till, MARCH)).toMatchObject({ opening: 9_750 });
    const refused = `${mo.path}/bank-accounts/${everyday}/statements/${FEBRUARY}/tick-entries`;
    await begin(usual, '881.50');
    await expect(
      scene.client.send('POST', refused, { legIds: [leg?.id], isTicked: true }),
    ).rejects.toThrow('STATEMENT_TICKED_ONLY');
  });
});

const report = (to: string, as: 'pdf' | 'csv') =>
  scene.harness.app.inject({
    url: `${mo.path}/bank-accounts/${everyday}/statements/${to}/report?as=${as}`,
    headers: { cookie: scene.client.cookie },
  });

it('a statement’s report is a PDF file of as many pages as it needs, whatever letters it has', async () => {
  const many = Array.from({ length: 120 }, (_, at) =>
    at % 2 === 0
      ? { date: '2026-02-10', amount: '-1.00', text: `ŁÓDŹ ŻŁOTY ĘĄ ${at}`, id: `M${at}` }
      : { date: '2026-02-11', amount: '-1.00', text: 'A LONG WORDING '.repeat(8), id: `M${at}` },
  );
  await begin(many, '880.00');
  const answer = await report(FEBRUARY, 'pdf');
  expect([answer.statusCode, answer.headers['content-type']]).toEqual([200, 'application/pdf']);
  const pdf = answer.rawPayload.toString('latin1');
  expect(pdf.startsWith('%PDF-')).toBe(true);
  expect(pdf.match(/\/Type \/Page\b/g)).toHaveLength(3);
});

it('a statement’s report as CSV has the equation and what each line runs to, and guards formulas', async () => {
  await begin([...usual, at('02-20', '-2.50', '=HYPERLINK("x")')], '879.00');
  await mo.post([await lineOf('TIDEMARK FREIGHT')], mo.codingTo(freight));
  const answer = await report(FEBRUARY, 'csv');
  expect(answer.headers['content-disposition']).toContain('attachment; filename*=UTF-8');
  const lines = answer.body.split('\r\n');
  expect(lines).toContain('Adds up to,891.00');
  expect(lines).toContain(
    '2026-02-03,2026-02-03,TIDEMARK FREIGHT,,,6010 Freight out,posted,-48.50,951.50',
  );
  expect(lines.find((line) => line.includes('HYPERLINK'))).toMatch(/,"?'=HYPERLINK/);
});

describe('a statement of many lines', () => {
  const DAYS = 28;
  const EACH = 44;
  const COUNT = DAYS * EACH;
  const path = () => `${mo.path}/bank-accounts/${everyday}/statements/${FEBRUARY}`;
  /** A cent more each, so that rows that are left out or come twice show; but for one that is a copy. */
  const many = Array.from({ length: COUNT }, (_, n) => {
    const day = String(Math.floor(n / EACH) + 1).padStart(2, '0');
    return at(`02-${day}`, `-${((n === 700 ? n : n + 1) / 100).toFixed(2)}`, `LINE ${n}`);
  });
  const pagesOf = async () => {
    const pages: StatementRows[] = [];
    for (let next: string | null | undefined; next !== null; next = pages.at(-1)?.next) {
      const query = next === undefined ? '' : `?cursor=${next}`;
      pages.push(await scene.client.get<StatementRows>(`${path()}/rows${query}`));
    }
    return pages;
  };
  const runs = (rows: readonly StatementRow[]) => {
    let balance = 100_000;
    for (const { amount, isCounted, runsTo } of rows) {
      balance += isCounted ? amount : 0;
      expect(runsTo).toBe(isCounted ? balance : null);
    }
    return balance;
  };
  const move = (texts: readonly string[], into: string) =>
    lineIdsOf(texts).then((lineIds) =>
      scene.client.send<StepDone>('POST', `${path()}/move-lines`, { lineIds, into }),
    );
  const lineIdsOf = async (texts: readonly string[]) => {
    const { rows } = await mo.statement(everyday, FEBRUARY);
    return rows.filter(({ text }) => texts.includes(text)).map(({ id }) => id);
  };

  beforeEach(() => begin(many, '-6595.27'));

  it('comes by whole days, page by page, each running on from the one before', async () => {
    const pages = await pagesOf();
    expect(pages.map(({ items }) => items.length)).toEqual([12 * EACH, 12 * EACH, 4 * EACH]);
    const rows = pages.flatMap(({ items }) => items);
    expect(rows.map(({ text }) => text)).toEqual(many.map(({ text }) => text));
    const { addsUp, lineCount } = await mo.statement(everyday, FEBRUARY);
    expect([lineCount, runs(rows)]).toEqual([COUNT, addsUp]);
  });

  it('has what is kept out among its rows, and what counts elsewhere beside them, open or agreed', async () => {
    const [original = '', copy = ''] = await lineIdsOf(['LINE 699', 'LINE 700']);
    await mo.exclude([copy], 'secondCopy', { [copy]: original });
    await move([`LINE ${COUNT - 1}`], 'next');
    const open = await mo.statement(everyday, FEBRUARY);
    expect(open.rows.filter(({ isCounted }) => !isCounted).map(({ text }) => text)).toEqual([
      'LINE 700',
    ]);
    expect(open.elsewhere.map(({ text }) => text)).toEqual([`LINE ${COUNT - 1}`]);
    expect([open.lineCount, runs(open.rows)]).toEqual([COUNT - 2, open.addsUp]);

    const all = open.rows.map(({ id }) => id).filter((id) => id !== copy);
    for (let from = 0; from < all.length; from += 500) {
      await mo.post(all.slice(from, from + 500), mo.codingTo(freight));
    }
    await mo.closingBalance(everyday, FEBRUARY, open.addsUp);
    await mo.agree(everyday, FEBRUARY);
    await mo.addLine(everyday, '2026-02-20', -300, 'LATE FEE');
    const agreed = await mo.statement(everyday, FEBRUARY);
    const kept = (rows: readonly StatementRow[]) => rows.filter(({ isCounted }) => isCounted);
    expect(agreed.rows.map(({ id, runsTo }) => [id, runsTo])).toEqual(
      kept(open.rows).map(({ id, runsTo }) => [id, runsTo]),
    );
    expect(agreed.elsewhere.map(({ text }) => text)).toEqual([
      'LINE 700',
      'LATE FEE',
      `LINE ${COUNT - 1}`,
    ]);
    expect(agreed).toMatchObject({ lineCount: COUNT - 2, openCount: 0, changes: [] });
    const march = await mo.statement(everyday, MARCH);
    expect(march.rows.map(({ text }) => text).sort()).toEqual(['LATE FEE', `LINE ${COUNT - 1}`]);
  }, 240_000);

  it('refuses a cursor of another list', async () => {
    const answer = scene.client.get(`${path()}/rows?cursor=${cursorOf('2026-02-03', 4)}`);
    await expect(answer).rejects.toThrow('CURSOR_FOREIGN');
  });
});

describe('what happens in an agreed statement', () => {
  beforeEach(async () => {
    await begin(usual, '881.50');
    await postAll();
    await mo.closingBalance(everyday, FEBRUARY, 89_350);
    await mo.agree(everyday, FEBRUARY);
  });

  it('a line that comes for it counts in the next one, as late', async () => {
    await mo.addLine(everyday, '2026-02-20', -300, 'LATE FEE');
    expect(await mo.statement(everyday, FEBRUARY)).toMatchObject({ off: 0, lineCount: 2 });
    const march = await mo.statement(everyday, MARCH);
    expect(march.rows).toMatchObject([{ text: 'LATE FEE', isLate: true }, { isLate: false }]);
    await mo.post([await lineOf('LATE FEE')], mo.codingTo(freight));
    expect(await mo.proof(everyday, FEBRUARY)).toMatchObject({ books: 89_350, unexplained: 0 });
    expect(await mo.proof(everyday, MARCH)).toMatchObject({ books: 87_850, openCount: 0 });
    await mo.closingBalance(everyday, MARCH, 87_850);
    await mo.agree(everyday, MARCH);
    const agreed = await mo.statement(everyday, MARCH);
    expect(agreed.rows.map(({ text }) => text)).toEqual(['LATE FEE', 'PARCEL LOCKER']);
    expect(agreed.changes).toEqual([]);
  });

  it('a line of it that is opened again is listed as changed, and its entry stays', async () => {
    const [line] = (await mo.decided()).filter(({ description }) => description === 'ORRIN MOBILE');
    await mo.reopen([line?.id ?? '']);
    expect(await mo.statement(everyday, FEBRUARY)).toMatchObject({
      state: 'agreed',
      off: 0,
      changes: [{ lineId: line?.id, what: 'open' }],
    });
    expect(await mo.line(line?.id ?? '')).toMatchObject({ held: 'late' });
    expect(await mo.proof(everyday, FEBRUARY)).toMatchObject({ books: 89_350, unexplained: 0 });
    await mo.post([line?.id ?? ''], mo.codingTo(await mo.accountId('6030')));
    expect(await mo.balance('6030')).toBe(5_800);
    expect(await mo.proof(everyday, FEBRUARY)).toMatchObject({ books: 89_350, unexplained: 0 });
    expect(await mo.proof(everyday, MARCH)).toMatchObject({ books: 88_150, unexplained: 0 });
  });

  it('lines that are not as they were are counted in the list, until they are so again', async () => {
    const changed = async () => (await list())?.statements[0]?.changedCount;
    const [first, second] = (await mo.decided()).filter(({ date }) => date <= FEBRUARY);
    expect(await changed()).toBe(0);
    const { step } = await mo.reopen([first?.id ?? '']);
    await mo.recode([second?.id ?? ''], { accountId: await mo.accountId('6080') });
    expect(await changed()).toBe(2);
    await mo.undo(step);
    expect(await changed()).toBe(1);
    await mo.reopenStatement(everyday, FEBRUARY);
    expect(await changed()).toBe(1);
    await mo.agree(everyday, FEBRUARY);
    expect(await changed()).toBe(0);
  });

  it('a line that the client was asked about is not as it was once it is decided', async () => {
    await mo.addLine(everyday, '2026-03-31', -700, 'COBBLE CAFE');
    await mo.closingBalance(everyday, MARCH, 87_450);
    const cafe = await lineOf('COBBLE CAFE');
    await mo.ask([cafe]);
    await mo.agree(everyday, MARCH);
    expect((await list())?.statements[1]).toMatchObject({ lineCount: 2, changedCount: 0 });
    await mo.post([cafe], mo.codingTo(freight));
    expect((await list())?.statements[1]).toMatchObject({ lineCount: 2, changedCount: 1 });
  });

  it('no line of it is kept out, until it is opened again', async () => {
    const [line] = (await mo.decided()).filter(({ description }) => description === 'ORRIN MOBILE');
    await mo.reopen([line?.id ?? '']);
    const { leftOut } = await mo.move([line?.id ?? ''], (await mo.bankAccount('Pot', null)).id);
    expect(leftOut).toMatchObject([{ code: 'STATEMENT_COUNTS_LINE' }]);
    await mo.reopenStatement(everyday, FEBRUARY);
    expect(await mo.statement(everyday, FEBRUARY)).toMatchObject({
      state: 'reopened',
      changes: [{ what: 'open' }],
    });
    expect((await list())?.closedTo).toBeNull();
  });

  it('only who has leave opens it again', async () => {
    const { leaves } = (await mo.setup()).books;
    await mo.settings({ leaves: { ...leaves, reopen: [], close: [] } });
    const ines = bookkeeper(await joinedAs(scene, 'Ines Varga', 'bookkeeper'), scene.books.id);
    await expect(ines.reopenStatement(everyday, FEBRUARY)).rejects.toThrow('LEAVE_NEEDED');
    await mo.closingBalance(everyday, MARCH, 88_150);
    await expect(ines.agree(everyday, MARCH)).rejects.toThrow('LEAVE_NEEDED');
    await mo.reopenStatement(everyday, FEBRUARY);
  });
});
