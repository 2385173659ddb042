import type { Board } from '@zubrell/contract/board';
import type { LinesDone, Stack } from '@zubrell/contract/desk';
import type { Question } from '@zubrell/contract/questions';
import { beforeEach, describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lanes, stacks, undo } = scene;
const send = <T>(path: string, body: object) =>
  scene.client.send<T>('POST', `${scene.path}${path}`, body);
const doubts = (found: readonly Stack[]) =>
  found.map(({ title, proposal }) => [title, proposal?.doubts]);

describe('nudges', () => {
  beforeEach(async () => {
    const lines = [
      { date: '2026-02-03', amount: '-700.00', text: 'PENHALLOW CLAY', id: 'A' },
      { date: '2026-02-13', amount: '-720.00', text: 'PENHALLOW CLAY', id: 'B' },
      { date: '2026-02-23', amount: '-710.00', text: 'PENHALLOW CLAY', id: 'C' },
    ];
    await scene.books.keep('february.ofx', ofxFile(lines, '-1130.00'));
    await scene.post(await scene.lineIds(), '5000');
    const march = [
      { date: '2026-03-03', amount: '-705.00', text: 'PENHALLOW CLAY', id: 'D' },
      { date: '2026-03-04', amount: '-848.50', text: 'PENHALLOW CLAY', id: 'E' },
      { date: '2026-03-05', amount: '20.00', text: 'PENHALLOW CLAY', id: 'F' },
      { date: '2026-03-06', amount: '-120.00', text: 'LOAN INSTALMENT 88', id: 'G' },
    ];
    await scene.books.keep('march.ofx', ofxFile(march, '-2783.50'));
  });

  it('part the large purchase, the refund and the loan from what is Ready', async () => {
    expect(await lanes()).toMatchObject({ ready: 1, check: 3, blank: 0 });
    const accountId = await scene.books.accountId('5000');
    expect(doubts(await stacks('check'))).toEqual(
      expect.arrayContaining([
        [
          'PENHALLOW CLAY',
          [
            {
              kind: 'nudge',
              nudge: 'fixedAsset',
              accountId: await scene.books.accountId('1500'),
            },
          ],
        ],
        ['PENHALLOW CLAY', [{ kind: 'nudge', nudge: 'refund', accountId }]],
        [
          'LOAN INSTALMENT',
          [{ kind: 'nudge', nudge: 'loan', accountId: await scene.books.accountId('2400') }],
        ],
      ]),
    );
  });

  it('are dismissed for look-alikes or a payee, and come back by undo', async () => {
    const dismiss = { nudge: 'fixedAsset', payeeId: null, stem: 'PENHALLOW CLAY' };
    expect(await send('/nudges/dismiss', dismiss)).toMatchObject({
      words: 'No longer says “looks like a fixed asset” of PENHALLOW CLAY',
    });
    expect(await lanes()).toMatchObject({ ready: 2, check: 2 });
    await undo();
    expect(await lanes()).toMatchObject({ ready: 1, check: 3 });
  });

  it('follow the threshold of the books', async () => {
    await scene.client.send('PATCH', scene.path, { assetThreshold: 90_000 });
    expect(await lanes()).toMatchObject({ ready: 2, check: 2 });
    await undo();
    expect(await lanes()).toMatchObject({ ready: 1, check: 3 });
  });
});

describe('what books demand', () => {
  it('is asked for before posting, and keeps proposals out of Ready', async () => {
    const text = 'PENHALLOW CLAY';
    const lines = ['A', 'B', 'C', 'D'].map((id, day) => {
      return { date: `2026-03-0${day + 1}`, amount: '-48.50', text, id };
    });
    await scene.books.keep('march.ofx', ofxFile(lines, '806.00'));
    const ids = await scene.lineIds();
    await scene.post(ids.slice(0, 3), '5000');
    expect(await lanes()).toMatchObject({ ready: 1 });
    await scene.client.send('PATCH', scene.path, { demands: { expense: ['taxCodeId'] } });
    expect(doubts(await stacks('check'))).toEqual([
      [text, [{ kind: 'incomplete', missing: ['taxCodeId'] }]],
    ]);
    await expect(scene.post(ids.slice(3), '5000')).rejects.toThrow('a tax code');
    await scene.post(ids.slice(3), '1500');
  });
});

describe('lines on the suspense account', () => {
  it('keep their question, show on the Board until it is nil, and teach nothing', async () => {
    const lines = [
      { date: '2026-03-03', amount: '-48.50', text: 'QUAYSIDE 1', id: 'A' },
      { date: '2026-03-04', amount: '-12.00', text: 'QUAYSIDE 2', id: 'B' },
      { date: '2026-03-05', amount: '-12.00', text: 'QUAYSIDE 3', id: 'C' },
    ];
    await scene.books.keep('march.ofx', ofxFile(lines, '900.00'));
    const ids = await scene.lineIds();
    await send('/questions', {
      target: { lineIds: ids.slice(0, 2) },
      askedOf: 'Ina Soltveit',
      words: 'What was this for?',
      seenStep: 1e6,
    });
    const done = await send<LinesDone>('/lines/suspend', {
      target: { lineIds: ids },
      seenStep: 1e6,
    });
    expect(done).toMatchObject({
      words: 'Put 2 lines on suspense until the answer arrives',
      leftOut: [{ lineId: ids[2], code: 'LINE_NOT_ASKED' }],
    });
    expect(await lanes()).toMatchObject({ asked: 0, blank: 1, posted: 2 });
    const board = () => scene.client.get<Board>(`${scene.path}/board`);
    expect((await board()).clearing).toMatchObject([
      { role: 'suspense', balance: 6_050, count: 2, who: 'Mo Oakes' },
    ]);
    const open = () => scene.client.get<{ questions: Question[] }>(`${scene.path}/questions`);
    const [question] = (await open()).questions;
    expect(question).toMatchObject({ state: 'open', lineCount: 2 });
    await scene.client.send('POST', `${scene.path}/questions/${question?.id}/answers`, {
      words: 'Mooring.',
    });
    expect((await open()).questions).toMatchObject([{ state: 'answered' }]);
    await send('/lines/recode', {
      target: { lineIds: ids.slice(0, 2) },
      accountId: await scene.books.accountId('6020'),
      seenStep: 1e6,
    });
    expect((await board()).clearing).toEqual([]);
    expect((await open()).questions).toEqual([]);
  });
});
