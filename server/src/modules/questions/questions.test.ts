import type { LineSheet, LinesDone } from '@zubrell/contract/desk';
import type { LineThread, Question } from '@zubrell/contract/questions';
import { beforeEach, describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lanes, undo } = scene;
let lineIds: string[];

beforeEach(async () => {
  const lines = [
    { date: '2026-03-03', amount: '-48.50', text: 'TIDEMARK FRT 1', id: 'A' },
    { date: '2026-03-05', amount: '-12.00', text: 'TIDEMARK FRT 2', id: 'B' },
  ];
  await scene.books.keep('march.ofx', ofxFile(lines, '939.50'));
  lineIds = await scene.lineIds();
});

const ask = (ids: readonly string[], words = 'What was this for?') =>
  scene.client.send<LinesDone>('POST', `${scene.path}/questions`, {
    target: { lineIds: ids },
    askedOf: 'Ina Soltveit',
    words,
    seenStep: 1e6,
  });
const open = async () =>
  (await scene.client.get<{ questions: Question[] }>(`${scene.path}/questions`)).questions;
const answer = (id: string, words: string) =>
  scene.client.send('POST', `${scene.path}/questions/${id}/answers`, { words });
const thread = (id: string) => scene.client.get<LineThread>(`${scene.path}/lines/${id}/thread`);

describe('a question', () => {
  it('keeps its lines in Asked until it is answered, then in Check with the answer', async () => {
    expect(await ask(lineIds)).toMatchObject({ words: 'Asked Ina Soltveit about 2 lines' });
    expect(await lanes()).toMatchObject({ asked: 2, blank: 0 });
    const [question] = await open();
    expect(question).toMatchObject({ state: 'open', lineCount: 2, askedBy: 'Mo Oakes' });
    await answer(question?.id ?? '', 'Two crates of mugs.');
    expect(await lanes()).toMatchObject({ asked: 0, check: 2 });
    const { questions } = await thread(lineIds[0] ?? '');
    expect(questions).toMatchObject([
      { state: 'answered', answers: [{ words: 'Two crates of mugs.', who: 'Mo Oakes' }] },
    ]);
  });

  it('shows its answer on the line and its stack, in the place of what was typed before', async () => {
    const [id = ''] = lineIds;
    const draft = async (version: number, note: string) =>
      scene.client.send('PUT', `${scene.path}/lines/${id}/draft`, {
        coding: { payeeId: null, accountId: null, taxCodeId: null, note },
        version,
      });
    const shown = async () => {
      const {
        draft: typed,
        draftVersion,
        answer: said,
      } = await scene.client.get<LineSheet>(`${scene.path}/lines/${id}`);
      return { note: typed?.note ?? null, draftVersion, said };
    };
    await draft(0, 'mugs?');
    await ask([id]);
    expect(await shown()).toEqual({ note: 'mugs?', draftVersion: 1, said: null });
    const [question] = await open();
    await answer(question?.id ?? '', 'Two crates of mugs.');
    expect(await shown()).toEqual({ note: null, draftVersion: 1, said: 'Two crates of mugs.' });
    const [stack] = await scene.stacks('check');
    expect(stack).toMatchObject({ answeredCount: 1, answer: 'Two crates of mugs.' });
    await draft(1, 'two crates');
    expect(await shown()).toMatchObject({ note: 'two crates', draftVersion: 2 });
  });

  it('can be taken back, and so can its answer, which stays readable', async () => {
    await ask(lineIds);
    const [question] = await open();
    await answer(question?.id ?? '', 'Personal.');
    await undo();
    expect(await lanes()).toMatchObject({ asked: 2 });
    expect((await thread(lineIds[0] ?? '')).questions[0]?.answers).toHaveLength(1);
    await undo();
    expect(await lanes()).toMatchObject({ asked: 0, blank: 2 });
    expect(await open()).toEqual([]);
    await expect(answer(question?.id ?? '', 'Too late.')).rejects.toThrow('QUESTION_UNKNOWN');
  });

  it('of two about one line keeps it in Asked until both are answered', async () => {
    const [first = ''] = lineIds;
    await ask([first]);
    await ask([first], 'And whose is it?');
    const [one, two] = await open();
    await answer(one?.id ?? '', 'Mugs.');
    expect(await lanes()).toMatchObject({ asked: 1, blank: 1 });
    await answer(two?.id ?? '', 'Mine.');
    expect(await lanes()).toMatchObject({ asked: 0, check: 1 });
  });

  it('says what is missing', async () => {
    await expect(ask(lineIds, '  ')).rejects.toThrow('a question is needed');
    expect((await ask(['00000000-0000-4000-8000-000000000000'])).leftOut).toMatchObject([
      { code: 'LINE_UNKNOWN' },
    ]);
  });
});

describe('an attachment', () => {
  const send = (bytes: Buffer, fileName = 'receipt.pdf') =>
    scene.harness.app.inject({
      method: 'POST',
      url: `${scene.path}/lines/${lineIds[0]}/attachments?fileName=${fileName}`,
      payload: bytes,
      headers: { 'content-type': 'application/octet-stream', cookie: scene.client.cookie },
    });

  it('is kept with its line and comes back as it was', async () => {
    const bytes = Buffer.from('%PDF-1.4 a receipt');
    const { id } = (await send(bytes)).json<{ id: string }>();
    const { attachments } = await thread(lineIds[0] ?? '');
    expect(attachments).toMatchObject([
      { id, fileName: 'receipt.pdf', type: 'application/pdf', size: bytes.length },
    ]);
    const attachment = await scene.harness.app.inject({
      url: `${scene.path}/attachments/${id}`,
      headers: { cookie: scene.client.cookie },
    });
    expect(await scene.client.get(`${scene.path}/lanes?attachment=none`)).toMatchObject({
      blank: 1,
    });
    expect(attachment.rawPayload).toEqual(bytes);
    expect(attachment.headers['content-type']).toBe('application/pdf');
    expect(attachment.headers['content-security-policy']).toContain('sandbox');
  });

  it('is judged by what it holds, not by its name, and has a largest size', async () => {
    expect((await send(Buffer.from('<script>'))).json()).toMatchObject({ code: 'ATTACHMENT_TYPE' });
    const large = Buffer.concat([Buffer.from('%PDF-'), Buffer.alloc(10 * 1024 * 1024)]);
    expect((await send(large)).statusCode).toBe(413);
    expect((await thread(lineIds[0] ?? '')).attachments).toEqual([]);
  });
});
