import type { Board } from '@zubrell/contract/board';
import type { LinesDone } from '@zubrell/contract/desk';
import type { BatchLines, BatchSheet, KeptLayout } from '@zubrell/contract/intake';
import { describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lanes, post, stacks, undo } = scene;

const clay = { date: '2026-03-03', amount: '-48.50', text: 'PENHALLOW CLAY', id: 'A' };
const sale = { date: '2026-03-20', amount: '640.00', text: 'NETTLE AND THREAD', id: 'B' };

async function linesOf(batchId: string) {
  return (await scene.client.get<BatchLines>(`${scene.path}/batches/${batchId}/lines`)).items;
}

const sheetOf = (batchId: string) =>
  scene.client.get<BatchSheet>(`${scene.path}/batches/${batchId}`);

describe('a batch', () => {
  it('is opened with its lines and what became of them', async () => {
    const { id } = await scene.books.keep('march.ofx', ofxFile([clay, sale], '1591.50'));
    const [first] = await linesOf(id);
    await post([first?.lineId ?? ''], '6010');
    const again = await scene.books.keep('again.ofx', ofxFile([clay], '951.50'));
    expect(await linesOf(id)).toMatchObject([
      { description: 'PENHALLOW CLAY', state: 'posted', folded: null },
      { description: 'NETTLE AND THREAD', state: 'open', folded: null },
    ]);
    expect(await linesOf(again.id)).toMatchObject([
      { state: 'posted', folded: { source: 'march.ofx', isHereWithout: true } },
    ]);
    expect((await sheetOf(id)).counts).toEqual({
      open: 1,
      posted: 1,
      excluded: 0,
      shared: 1,
      ownDecided: 0,
    });
  });

  it('is taken back: open lines go, decided ones stay or are undone, as a step', async () => {
    const { id } = await scene.books.keep('march.ofx', ofxFile([clay, sale], '1591.50'));
    const [first] = await linesOf(id);
    await post([first?.lineId ?? ''], '6010');
    const takeBack = (decided: string) =>
      scene.client.send<{ step: number; words: string }>(
        'POST',
        `${scene.path}/batches/${id}/take-back`,
        {
          decided,
        },
      );
    const stayed = await takeBack('stay');
    expect(stayed.words).toBe('Undid the import of march.ofx, 1 line decided stays');
    const states = async () => (await linesOf(id)).map(({ state }) => state);
    expect(await states()).toEqual(['posted', 'gone']);
    await expect(takeBack('stay')).rejects.toThrow('BATCH_NOT_KEPT');
    await undo(stayed.step);
    expect(await states()).toEqual(['posted', 'open']);
    const undone = await takeBack('undo');
    expect(await states()).toEqual(['gone', 'gone']);
    await undo(undone.step);
    expect(await states()).toEqual(['posted', 'open']);
    expect((await sheetOf(id)).status).toBe('kept');
  });

  it('shows its own words, and a row that was taken for another line is kept as one of its own', async () => {
    const first = await scene.books.keep('march.ofx', ofxFile([clay, sale], '1591.50'));
    const [line] = await linesOf(first.id);
    await post([line?.lineId ?? ''], '6010');
    const again = { ...clay, text: 'Penhallow Clay 0303', id: 'Z' };
    const second = await scene.books.keep('again.ofx', ofxFile([again, sale], '1591.50'));
    const rows = async () => await linesOf(second.id);
    const [row, other] = await rows();
    expect(row).toMatchObject({
      description: 'Penhallow Clay 0303',
      bankId: 'Z',
      state: 'posted',
      apartLineId: null,
      folded: { description: 'PENHALLOW CLAY', bankId: 'A', source: 'march.ofx' },
    });
    const keepApart = (lineId: string | undefined) =>
      scene.client.send<{ step: number; words: string }>(
        'POST',
        `${scene.path}/batches/${second.id}/lines/${lineId}/keep-apart`,
      );
    const kept = await keepApart(row?.lineId);
    expect(kept.words).toBe('Kept row 6 of again.ofx, −48.50 in Everyday, as a line of its own');
    const apart = (await rows())[0];
    expect(apart).toMatchObject({ state: 'open', apartLineId: expect.any(String) });
    expect((await sheetOf(second.id)).counts).toMatchObject({ open: 2, posted: 0, shared: 1 });
    expect(await lanes()).toMatchObject({ check: 1, blank: 1 });
    await expect(keepApart(row?.lineId)).rejects.toThrow('LINE_APART');
    // Undone and kept apart again, it is the same line.
    await undo(kept.step);
    expect(await lanes()).toMatchObject({ check: 0, blank: 1 });
    await keepApart(row?.lineId);
    expect((await rows())[0]?.apartLineId).toBe(apart?.apartLineId);
    // A third file that has both finds both.
    const third = await scene.books.keep('third.ofx', ofxFile([clay, again, sale], '1543.00'));
    expect(third.newCount).toBe(0);
    // It goes with its batch, unless another has it too.
    const takeBack = (id: string) =>
      scene.client.send('POST', `${scene.path}/batches/${id}/take-back`, { decided: 'stay' });
    await takeBack(third.id);
    await takeBack(second.id);
    expect(await lanes()).toMatchObject({ check: 0, blank: 1 });
    expect(await linesOf(first.id)).toMatchObject([{ state: 'posted' }, { state: 'open' }]);
    await expect(keepApart(other?.lineId)).rejects.toThrow('LINE_NOT_FOLDED');
  });

  it('keeps its own words when it is moved to another bank account', async () => {
    const { id: card } = await scene.client.send<{ id: string }>(
      'POST',
      `${scene.path}/bank-accounts`,
      { name: 'Studio card', kind: 'card', bank: null, number: '0916' },
    );
    await scene.books.keep('march.ofx', ofxFile([clay], '951.50'));
    const again = { ...clay, text: 'Penhallow Clay 0303', id: 'Z' };
    const { id } = await scene.books.keep('again.ofx', ofxFile([again], '951.50'));
    await scene.client.send('POST', `${scene.path}/batches/${id}/move`, { bankAccountId: card });
    const { batches } = await scene.client.get<{ batches: { id: string; movedFrom: string }[] }>(
      `${scene.path}/batches`,
    );
    const moved = batches.find(({ movedFrom }) => movedFrom === id)?.id ?? '';
    expect(await linesOf(moved)).toMatchObject([
      { description: 'Penhallow Clay 0303', bankId: 'Z', folded: null },
    ]);
  });

  it('in the wrong bank account is moved whole, and back by undo', async () => {
    const { id: card } = await scene.client.send<{ id: string }>(
      'POST',
      `${scene.path}/bank-accounts`,
      {
        name: 'Studio card',
        kind: 'card',
        bank: null,
        number: '0916',
      },
    );
    const { id } = await scene.books.keep('march.ofx', ofxFile([clay, sale], '1591.50'));
    const [first] = await linesOf(id);
    await post([first?.lineId ?? ''], '6010');
    const move = (bankAccountId: string) =>
      scene.client.send<{ step: number; words: string }>(
        'POST',
        `${scene.path}/batches/${id}/move`,
        {
          bankAccountId,
        },
      );
    await expect(move(scene.books.bankAccountId)).rejects.toThrow('BATCH_SAME_ACCOUNT');
    const moved = await move(card);
    expect(moved.words).toBe('Moved march.ofx to Studio card');
    const opened = async () =>
      (await scene.books.setup()).bankAccounts.map(({ name, opening }) => [name, opening?.amount]);
    expect(await opened()).toEqual([
      ['Everyday', undefined],
      ['Studio card', 100000],
    ]);
    const open = async (account: string) =>
      scene.client.get<{ blank: number }>(`${scene.path}/lanes?bankAccountId=${account}`);
    expect(await open(card)).toMatchObject({ blank: 2 });
    expect(await open(scene.books.bankAccountId)).toMatchObject({ blank: 0 });
    await undo(moved.step);
    expect(await opened()).toEqual([
      ['Everyday', 100000],
      ['Studio card', undefined],
    ]);
    expect(await open(card)).toMatchObject({ blank: 0 });
    expect(await linesOf(id)).toMatchObject([{ state: 'posted' }, { state: 'open' }]);
  });

  it('with dates that are open, or ahead of today, is kept only when that is said', async () => {
    const open = 'Date,Text,Amount\n03/04/2026,CLAY,-1.00\n';
    const asked = await scene.books.keep('open.csv', open);
    expect(asked).toMatchObject({ status: 'refused', refusal: { code: 'FILE_DATES_OPEN' } });
    const said = await scene.books.keep('open.csv', open, { choices: { dates: 'monthFirst' } });
    expect(said).toMatchObject({ status: 'kept', fromDate: '2026-03-04' });
    // It is remembered for the next file of these columns.
    const { layouts } = await scene.client.get<{ layouts: KeptLayout[] }>(`${scene.path}/layouts`);
    expect(layouts).toMatchObject([{ choices: { dates: 'monthFirst' } }]);
    expect(layouts[0]?.choices).not.toHaveProperty('headerRow');
    const ahead = 'Date,Text,Amount\n2098-03-04,CLAY,-1.00\n';
    const refused = await scene.books.keep('ahead.csv', ahead, { confirmDates: false });
    expect(refused).toMatchObject({
      status: 'refused',
      refusal: { code: 'FILE_DATES_AHEAD', message: expect.stringContaining('2098-03-04') },
    });
    expect((await scene.books.keep('ahead.csv', ahead)).status).toBe('kept');
  });

  it('with a text without end, or odd characters, is kept with a word about it', async () => {
    const word = 'PENHALLOW'.repeat(1000);
    const rows = [`2026-03-01,${word},-1.00`, `2026-03-02,${'ﷺ'.repeat(700)},-2.00`];
    const kept = await scene.books.keep('long.csv', ['Date,Text,Amount', ...rows].join('\n'));
    expect(kept).toMatchObject({ status: 'kept', newCount: 2 });
    expect(kept.problems).toMatchObject([{ code: 'FILE_TEXT_CUT', line: 2 }]);
  });

  it('whose closing balance does not fit is kept only if that is confirmed', async () => {
    await scene.books.keep('march.ofx', ofxFile([clay], '951.50'));
    const april = ofxFile([{ ...sale, date: '2026-04-02', id: 'C' }], '1600.00');
    const refused = await scene.books.keep('april.ofx', april, { confirmBalance: false });
    expect(refused).toMatchObject({
      status: 'refused',
      refusal: { code: 'FILE_OTHER_BALANCE', message: expect.stringContaining('8.50') },
    });
    const kept = await scene.books.keep('april.ofx', april);
    expect(kept).toMatchObject({ status: 'kept', newCount: 1 });
    expect((await sheetOf(kept.id)).firstBreak).toEqual({
      date: '2026-04-02',
      stated: 160000,
      difference: 850,
      since: '2026-03-03',
    });
    const board = await scene.client.get<Board>(`${scene.path}/board`);
    expect(board.rows[0]).toMatchObject({ firstBreak: { difference: 850 }, knownTo: '2026-04-02' });
    expect(board.rows[0]?.cells).toMatchObject([
      { month: '2026-03', open: 1, unexplained: 0, isClosed: false },
      { month: '2026-04', open: 1, unexplained: 850 },
    ]);
  });
});

describe('a deleted line', () => {
  it('leaves a marker, does not come in again and can be restored', async () => {
    const copy = { ...sale, date: '2026-03-21', id: 'C' };
    const file = ofxFile([clay, sale, copy], '1591.50');
    const { id } = await scene.books.keep('march.ofx', file);
    const [, , third] = await linesOf(id);
    const lineIds = [third?.lineId ?? ''];
    const deleted = await scene.client.send<LinesDone>('POST', `${scene.path}/lines/exclude`, {
      target: { lineIds },
      reason: 'secondCopy',
      as: 'deleted',
      seenStep: 1e6,
    });
    expect(deleted.words).toBe('Deleted 1 line: second copy of NETTLE AND THREAD on 20 March 2026');
    expect(await scene.books.keep('again.ofx', file)).toMatchObject({
      status: 'kept',
      newCount: 0,
    });
    expect(await lanes()).toMatchObject({ deleted: 1, blank: 2 });
    const body = { target: { lineIds }, seenStep: 1e6 };
    const restored = await scene.client.send<LinesDone>('POST', `${scene.path}/lines/reopen`, body);
    expect(restored).toMatchObject({ words: 'Reopened 1 line', done: lineIds });
    expect(await lanes()).toMatchObject({ deleted: 0, blank: 3 });
    await undo(restored.step ?? 0);
    expect(await lanes()).toMatchObject({ deleted: 1, blank: 2 });
    const stale = { target: { lineIds }, seenStep: 0 };
    expect(
      await scene.client.send<LinesDone>('POST', `${scene.path}/lines/reopen`, stale),
    ).toMatchObject({
      step: null,
      leftOut: [{ code: 'LINE_CHANGED' }],
    });
  });
});

describe('a prepared file', () => {
  it('proposes what it says where the books know the names, and makes nothing', async () => {
    const csv = [
      'Date,Details,Amount,Account,Tax,Payee',
      '2026-03-03,Clay,-48.50,6010,20 %,',
      '2026-03-04,Freight,-12.00,6010 freight OUT,19 %,Tidemark',
      '2026-03-05,Other,-1.00,9999,,',
    ].join('\n');
    const { id } = await scene.books.keep('prepared.csv', csv);
    expect(await stacks('ready')).toMatchObject([
      {
        key: 'CLAY',
        proposal: {
          source: 'file',
          grounds: [{ kind: 'prepared' }],
          coding: { parts: [{ accountId: await scene.books.accountId('6010') }] },
        },
      },
    ]);
    const [check] = await stacks('check');
    expect(check?.proposal?.doubts).toEqual([
      { kind: 'unknownName', what: 'tax', name: '19 %' },
      { kind: 'unknownName', what: 'payee', name: 'Tidemark' },
    ]);
    expect((await stacks('blank')).map(({ key }) => key)).toEqual(['OTHER']);
    expect((await scene.books.setup()).payees).toEqual([]);
    // What was decided weighs more than what a file says.
    const line = (await linesOf(id))[0]?.lineId ?? '';
    await post([line], '6030');
    await scene.books.keep('more.csv', 'Date,Details,Amount,Account\n2026-03-09,Clay,-5.00,6010\n');
    const proposed = [...(await stacks('ready')), ...(await stacks('check'))];
    const clay = proposed.filter(({ key }) => key === 'CLAY');
    expect(clay.map(({ proposal }) => proposal?.source)).toContain('habit');
  });
});

describe('a table', () => {
  it('is read as somebody chose, and its layout kept for the account', async () => {
    const csv = 'Booked;Text;Amount\n03/04/2026;Clay;48,50\n';
    const choices = { isTurned: true, dates: 'monthFirst' as const };
    await scene.books.keep('card.csv', csv, { choices });
    await scene.books.keep('next.csv', csv.replace('03/04', '03/24'), { choices });
    const { layouts } = await scene.client.get<{ layouts: KeptLayout[] }>(`${scene.path}/layouts`);
    expect(layouts).toMatchObject([
      {
        bankAccountId: scene.books.bankAccountId,
        shape: 'Booked|Text|Amount',
        times: 2,
        choices: { isTurned: true, dates: 'monthFirst', decimal: ',', delimiter: ';' },
      },
    ]);
    expect(await stacks('blank')).toMatchObject([{ count: 2, total: -9700 }]);
  });
});
