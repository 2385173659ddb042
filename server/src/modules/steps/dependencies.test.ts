import type { UndoDone } from '@zubrell/contract/desk';
import { sql } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { ofxFile } from '../../testing/files.ts';
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

const at = (day: string, amount: string, text: string, id = text) => ({
  date: `2026-03-${day}`,
  amount,
  text,
  id,
});
const keep = (name: string, lines: Parameters<typeof ofxFile>[0], closing = '1000.00') =>
  scene.books.keep(name, ofxFile(lines, closing));
const lineOf = async (text: string, bankAccountId?: string) =>
  (await mo.open(bankAccountId)).find(({ description }) => description === text)?.id ?? '';
const stepOf = async (kind: string) => (await mo.steps()).find((step) => step.kind === kind)?.no;

/** The refusal of a command in words. */
async function refusal(work: Promise<unknown>): Promise<string> {
  try {
    await work;
  } catch (error) {
    return error instanceof Error ? error.message : '';
  }
  return 'done';
}

const cheque = (number: string, amount: number, day = '01') => ({
  kind: 'cheque',
  date: `2026-03-${day}`,
  note: null,
  bankAccountId: everyday,
  amount,
  number,
  payeeId: null,
  parts: [{ accountId: freight, taxCodeId: null, share: { kind: 'rest' }, tax: null }],
});
const legOf = async (entryId: string) => {
  const { entries } = await scene.client.get<{ entries: { entryId: string; legId: string }[] }>(
    `${mo.path}/outstanding`,
  );
  return entries.find((entry) => entry.entryId === entryId)?.legId ?? '';
};
const bill = (number: string, amount: number, payeeId: string) => ({
  kind: 'bill',
  side: 'payables',
  number,
  payeeId,
  date: '2026-03-01',
  dueDate: null,
  lines: [{ text: 'Freight', accountId: freight, taxCodeId: null, amount, tax: null }],
  note: null,
});

/** The steps that were turned, in that order. */
const numbersOf = ({ turned }: UndoDone) => turned.map(({ no }) => no);

describe('a line has to be here', () => {
  it('a moved line that is reopened comes back, and counts in one account only', async () => {
    const { id: pot } = await mo.bankAccount('Tax pot', null);
    await keep('a.ofx', [at('02', '-48.50', 'TIDEMARK')]);
    const line = await lineOf('TIDEMARK');
    await mo.move([line], pot);
    expect(await mo.open(pot)).toHaveLength(1);
    expect((await mo.reopen([line])).done).toEqual([line]);
    expect(await mo.open(pot)).toEqual([]);
    expect(await mo.open()).toHaveLength(1);
    expect((await mo.proof(everyday)).open).toBe(-4_850);
    await mo.undo();
    expect((await mo.open(pot)).length + (await mo.open(everyday)).length).toBe(1);
  });

  it('a moved line that is posted there is not reopened here, and says which step holds it', async () => {
    const { id: pot } = await mo.bankAccount('Tax pot', null);
    await keep('a.ofx', [at('02', '-48.50', 'TIDEMARK')]);
    const line = await lineOf('TIDEMARK');
    await mo.move([line], pot);
    await mo.post([await lineOf('TIDEMARK', pot)], mo.codingTo(freight));
    const { done, leftOut } = await mo.reopen([line]);
    expect(done).toEqual([]);
    expect(leftOut).toMatchObject([{ code: 'LINE_HELD' }]);
    expect(leftOut[0]?.message).toContain('Moved 1 line to Tax pot');
  });

  it('is not posted by a redo after its batch is gone', async () => {
    await keep('a.ofx', [at('02', '-48.50', 'TIDEMARK')]);
    const posted = await mo.post([await lineOf('TIDEMARK')], mo.codingTo(freight));
    await mo.undo(posted.step);
    const kept = await stepOf('keepBatch');
    await mo.undo(kept);
    expect(await refusal(mo.redo(posted.step))).toContain(`${kept} “Imported 1 line from a.ofx`);
    expect(await mo.balance('6010')).toBe(0);
    const back = await mo.redo(posted.step, true);
    expect(numbersOf(back)).toEqual([kept, posted.step]);
    expect(await mo.balance('6010')).toBe(4_850);
  });

  it('is not posted by a redo after it was taken back as a line by hand', async () => {
    const made = await mo.addLine(everyday, '2026-03-04', -1_200, 'CASH CLAY');
    const posted = await mo.post([made.id], mo.codingTo(freight));
    await mo.undo(posted.step);
    await mo.undo(made.step);
    expect(await refusal(mo.redo(posted.step))).toContain(`${made.step} “`);
    expect(await mo.balance('6010')).toBe(0);
  });

  it('stays where it was before a file came that has it too', async () => {
    const made = await mo.addLine(everyday, '2026-03-04', -1_200, 'CASH CLAY');
    const { id, newCount } = await keep('a.ofx', [at('04', '-12.00', 'CASH CLAY')]);
    expect(newCount).toBe(0);
    await mo.takeBack(id, 'stay');
    expect((await mo.open()).map((line) => line.id)).toEqual([made.id]);
    await mo.undo();
    await mo.undo(await stepOf('keepBatch'));
    expect((await mo.open()).map((line) => line.id)).toEqual([made.id]);
  });

  it('goes with its batch only after what was decided about it, and just that is undone too', async () => {
    await keep('a.ofx', [at('02', '-48.50', 'TIDEMARK'), at('03', '-29.00', 'ORRIN BELL')]);
    const [tidemark, orrin] = [await lineOf('TIDEMARK'), await lineOf('ORRIN BELL')];
    const first = await mo.post([tidemark], mo.codingTo(freight));
    await mo.payee('Somebody else');
    await mo.reopen([tidemark]);
    const second = await mo.post([tidemark], mo.codingTo(await mo.accountId('6030')));
    const third = await mo.post([orrin], mo.codingTo(freight));
    const kept = await stepOf('keepBatch');
    const reopened = await stepOf('reopen');
    const named = await refusal(mo.undo(kept));
    for (const step of [first.step, reopened, second.step, third.step]) {
      expect(named).toContain(`${step} “`);
    }
    expect(named).not.toContain('Somebody else');
    expect(numbersOf(await mo.undo(kept, true))).toEqual([
      third.step,
      second.step,
      reopened,
      first.step,
      kept,
    ]);
    expect(await mo.balances()).toEqual({});
    expect(await mo.open()).toEqual([]);
  });

  it('that is the original of a copy takes the copy’s exclusion along', async () => {
    await keep('a.ofx', [at('02', '-48.50', 'TIDEMARK', 'A')]);
    const kept = await stepOf('keepBatch');
    await keep('b.ofx', [at('05', '-48.50', 'TIDEMARK', 'B')], '951.50');
    const copy = (await mo.open()).find(({ date }) => date === '2026-03-05')?.id ?? '';
    const excluded = await mo.exclude([copy], 'secondCopy');
    expect(excluded.done).toEqual([copy]);
    expect(await refusal(mo.undo(kept))).toContain(`${excluded.step} “`);
    await mo.undo(kept, true);
    expect((await mo.open()).map(({ id }) => id)).toEqual([copy]);
  });
});

describe('what was made', () => {
  it('can be unmade while only void entries name it', async () => {
    await keep('a.ofx', [at('02', '-48.50', 'TIDEMARK')]);
    const payee = await mo.payee('Tidemark Freight');
    const line = await lineOf('TIDEMARK');
    await mo.post([line], mo.codingTo(freight, payee.id));
    await mo.reopen([line]);
    expect(numbersOf(await mo.undo(payee.step))).toEqual([payee.step]);
    expect((await mo.setup()).payees).toEqual([]);
    // What names it can only come back with it.
    const reopened = await stepOf('reopen');
    expect(await refusal(mo.undo(reopened))).toContain(`${payee.step} “`);
    expect(await mo.undo(reopened, true)).toMatchObject({
      turned: [
        { no: payee.step, isUndone: false },
        { no: reopened, isUndone: true },
      ],
      words: expect.stringContaining('with 1 step that it rests on'),
    });
    expect((await mo.setup()).payees).toMatchObject([{ id: payee.id }]);
  });

  it('is undone step by step by Z, however often it was used and let go', async () => {
    await keep('a.ofx', [at('02', '-48.50', 'TIDEMARK')]);
    const payee = await mo.payee('Tidemark Freight');
    const line = await lineOf('TIDEMARK');
    const posted = await mo.post([line], mo.codingTo(freight, payee.id));
    await mo.undo();
    expect(numbersOf(await mo.undo())).toEqual([payee.step]);
    await mo.redo();
    await mo.redo();
    expect((await mo.line(line)).decision?.step).toBe(posted.step);
  });

  it('comes back only while its name is free, in whatever case', async () => {
    const first = await mo.payee('Tidemark Freight');
    await mo.undo();
    const second = await mo.payee('TIDEMARK freight');
    expect(await refusal(mo.redo(first.step))).toContain(`STEP_TOUCHED`);
    expect(await refusal(mo.redo(first.step))).toContain(`${second.step} “`);
    await mo.undo(second.step);
    await mo.redo(first.step);
    expect((await mo.setup()).payees).toMatchObject([{ id: first.id }]);
  });

  it('keeps its old name from being given back while another has it', async () => {
    const first = await mo.payee('Tidemark');
    const renamed = await mo.renamePayee(first.id, 'Tidemark Freight');
    const second = await mo.payee('tidemark');
    expect(await refusal(mo.undo(renamed.step))).toContain(`${second.step} “`);
    expect(numbersOf(await mo.undo(renamed.step, true))).toEqual([second.step, renamed.step]);
    expect((await mo.setup()).payees).toMatchObject([{ id: first.id, name: 'Tidemark' }]);
  });

  it('has its code or number to itself', async () => {
    const account = await mo.account('6999', 'First');
    await mo.undo();
    const other = await mo.account('6999', 'Second');
    expect(await refusal(mo.redo(account.step))).toContain(`${other.step} “`);
    const pot = await mo.bankAccount('Tax pot', '4480');
    await mo.undo(pot.step);
    const again = await mo.bankAccount('Second pot', '4480');
    expect(await refusal(mo.redo(pot.step))).toContain(`${again.step} “`);
    const payee = await mo.payee('Penhallow Clay');
    const clay = await mo.document(bill('2093', 12_000, payee.id));
    await mo.voidDocument(clay.id);
    const twin = await mo.document(bill('2093', 9_000, payee.id));
    const voiding = await stepOf('voidDocument');
    expect(await refusal(mo.undo(voiding))).toContain(`${twin.step} “`);
  });

  it('does not come back below an account that is gone', async () => {
    const parent = await mo.account('6980', 'Above');
    const child = await mo.account('6981', 'Below', parent.id);
    expect(await refusal(mo.undo(parent.step))).toContain(`${child.step} “`);
    await mo.undo(child.step);
    await mo.undo(parent.step);
    expect(await refusal(mo.redo(child.step))).toContain(`${parent.step} “`);
    expect(numbersOf(await mo.redo(child.step, true))).toEqual([parent.step, child.step]);
  });

  it('has one opening balance in force', async () => {
    const first = await mo.opening(everyday, '2026-02-28', 50_000);
    await mo.undo();
    const second = await mo.opening(everyday, '2026-02-27', 40_000);
    expect(await refusal(mo.redo(first.step))).toContain(`${second.step} “`);
    expect(await mo.balance('1010')).toBe(40_000);
  });

  it('keeps what else was changed of it meanwhile', async () => {
    const payee = await mo.payee('Tidemark');
    const renamed = await mo.renamePayee(payee.id, 'Tidemark Freight');
    await scene.client.send('PATCH', `${mo.path}/payees/${payee.id}`, { isOn: false });
    expect(numbersOf(await mo.undo(renamed.step))).toEqual([renamed.step]);
    expect((await mo.setup()).payees).toMatchObject([{ name: 'Tidemark', isOn: false }]);
  });
});

describe('what was paired', () => {
  it('a transfer whose other half is paired is undone together with that', async () => {
    const { id: pot } = await mo.bankAccount('Tax pot', '4480');
    const potAccount =
      (await mo.setup()).bankAccounts.find(({ id }) => id === pot)?.accountId ?? '';
    await keep('a.ofx', [at('02', '-100.00', 'TO POT')]);
    const out = await lineOf('TO POT');
    const posted = await mo.post([out], mo.codingTo(freight));
    const recoded = await mo.recode([out], { accountId: potAccount });
    const into = await mo.addLine(pot, '2026-03-03', 10_000, 'FROM EVERYDAY');
    const entryId = (await scene.client.get<{ entryId: string }>(`${mo.path}/lines/${out}`))
      .entryId;
    const paired = await mo.pair([into.id], [await legOf(entryId)]);
    expect(paired.done).toEqual([into.id]);
    expect(await refusal(mo.undo(recoded.step))).toContain(`${paired.step} “`);
    expect(numbersOf(await mo.undo(recoded.step, true))).toEqual([paired.step, recoded.step]);
    expect((await mo.line(out)).decision?.step).toBe(posted.step);
    expect(await mo.balance('6010')).toBe(10_000);
    const { causes } = await mo.proof();
    expect(causes.map(({ kind }) => kind)).not.toContain('lineGone');
  });

  it('credit that was used holds the payment that left it, by name', async () => {
    const payee = await mo.payee('Penhallow Clay');
    const first = await mo.document(bill('2093', 10_000, payee.id));
    await keep('a.ofx', [at('09', '-130.00', 'PENHALLOW 2093')]);
    const line = await lineOf('PENHALLOW 2093');
    const paid = await mo.pair([line], [first.id], { kind: 'onAccount' });
    const { documents } = await scene.client.get<{ documents: { id: string; kind: string }[] }>(
      `${mo.path}/documents?side=payables&state=open`,
    );
    const credit = documents.find(({ kind }) => kind === 'credit')?.id ?? '';
    const next = await mo.document(bill('2094', 3_000, payee.id));
    const offset = await mo.offset([credit, next.id]);
    expect(await refusal(mo.undo(paid.step))).toContain(`${offset.step} “`);
    expect(numbersOf(await mo.undo(paid.step, true))).toEqual([offset.step, paid.step]);
    expect(await mo.documentOf(first.id)).toMatchObject({ open: -10_000 });
    expect(await mo.documentOf(next.id)).toMatchObject({ open: -3_000 });
    // Brought back in any order: the credit has to be there again first.
    expect(await refusal(mo.redo(offset.step))).toContain(`${paid.step} “`);
    await mo.redo(offset.step, true);
    expect(await mo.documentOf(next.id)).toMatchObject({ open: 0 });
  });

  it('an entry that another line was paired with meanwhile is not taken from it', async () => {
    const entry = await mo.enter(cheque('001042', 4_850));
    await keep('a.ofx', [at('09', '-48.50', 'CHEQUE A'), at('10', '-48.50', 'CHEQUE B')]);
    const leg = await legOf(entry.id);
    const first = await mo.pair([await lineOf('CHEQUE A')], [leg]);
    await mo.undo();
    const second = await mo.pair([await lineOf('CHEQUE B')], [leg]);
    expect(await refusal(mo.redo(first.step))).toContain(`${second.step} “`);
  });

  it('an entry that was voided meanwhile is not paired again', async () => {
    const entry = await mo.enter(cheque('001042', 4_850));
    await keep('a.ofx', [at('09', '-48.50', 'CHEQUE A')]);
    const line = await lineOf('CHEQUE A');
    const paired = await mo.pair([line], [await legOf(entry.id)]);
    await mo.reopen([line]);
    const voided = await mo.voidEntry(entry.id);
    const reopened = await stepOf('reopen');
    expect(await refusal(mo.undo(reopened))).toContain(`${voided.step} “`);
    expect(numbersOf(await mo.undo(reopened, true))).toEqual([voided.step, reopened]);
    expect((await mo.line(line)).decision).toMatchObject({ kind: 'paired', step: paired.step });
  });

  it('a document that was paid otherwise meanwhile is not paid twice', async () => {
    const payee = await mo.payee('Penhallow Clay');
    const clay = await mo.document(bill('2093', 10_000, payee.id));
    await keep('a.ofx', [at('09', '-100.00', 'CLAY A'), at('10', '-100.00', 'CLAY B')]);
    const first = await mo.pair([await lineOf('CLAY A')], [clay.id]);
    await mo.undo();
    const second = await mo.pair([await lineOf('CLAY B')], [clay.id]);
    expect(await refusal(mo.redo(first.step))).toContain(`${second.step} “`);
    expect(await mo.documentOf(clay.id)).toMatchObject({ open: 0 });
  });
});

describe('together with later ones', () => {
  it('all are undone or none, and nothing is learned from what was rolled back', async () => {
    await keep('a.ofx', [
      at('02', '-29.00', 'ORRIN BELL', 'A'),
      at('03', '-29.00', 'ORRIN BELL', 'B'),
      at('20', '-29.00', 'ORRIN BELL', 'C'),
    ]);
    const ids = (await mo.open()).sort((a, b) => (a.date < b.date ? -1 : 1)).map(({ id }) => id);
    const phones = mo.codingTo(await mo.accountId('6030'));
    const first = await mo.post(ids.slice(0, 1), phones);
    await mo.post(ids.slice(1, 2), phones);
    const last = await mo.post(ids.slice(2), phones);
    await mo.endStatement(everyday, '2026-03-31', '2026-03-10');
    const { addsUp } = await mo.statement(everyday, '2026-03-10');
    await mo.closingBalance(everyday, '2026-03-10', addsUp);
    const agreed = await mo.agree(everyday, '2026-03-10');
    const kept = await stepOf('keepBatch');
    const before = await mo.balances();
    // The newest could be undone, those that an agreed statement counts can't.
    expect(await refusal(mo.undo(kept, true))).toContain('STATEMENT_COUNTS_LINE');
    expect(await mo.balances()).toEqual(before);
    expect((await mo.line(ids[2] ?? '')).decision?.step).toBe(last.step);
    await mo.undo(agreed.step);
    await mo.addLine(everyday, '2026-03-25', -2_900, 'ORRIN BELL');
    const [waiting] = await mo.open();
    expect(waiting?.proposal?.grounds).toMatchObject([{ kind: 'lookAlikes', times: 3, of: 3 }]);
    await mo.undo(first.step);
    const [again] = (await mo.open()).filter(({ date }) => date === '2026-03-25');
    expect(again?.proposal?.grounds).toMatchObject([{ kind: 'lookAlikes', times: 2, of: 2 }]);
  });
});

describe('what changed behind the program’s back', () => {
  it('is refused with words, not as a fault', async () => {
    await keep('a.ofx', [at('02', '-48.50', 'TIDEMARK')]);
    const line = await lineOf('TIDEMARK');
    const posted = await mo.post([line], mo.codingTo(freight));
    await scene.harness.database.transaction(async (tx) => {
      await tx.execute(sql`select set_config('app.books_id', ${scene.books.id}, true)`);
      await tx.execute(
        sql`update decision_lines set is_live = false
            where books_id = ${scene.books.id} and line_id = ${line}`,
      );
    });
    expect(await refusal(mo.undo(posted.step))).toContain('STEP_HELD');
  });
});
