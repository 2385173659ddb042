import type { LineSheet, Steps } from '@zubrell/contract/desk';
import { formatsOf } from '@zubrell/core/text/formats';
import { saidWords } from '@zubrell/core/words/say';
import { expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lineIds, post, undo } = scene;

it('keeps of every step its key and values, which say the same as its words', async () => {
  const lines = ['01', '02'].map((day) => ({
    date: `2026-03-${day}`,
    amount: '-1234.50',
    text: 'PENHALLOW CLAY',
    id: day,
  }));
  await scene.books.keep('march.ofx', ofxFile(lines, '0.00'));
  const ids = await lineIds();
  await post(ids, '5000');
  await undo();
  await scene.client.send('POST', `${scene.path}/steps/redo`, { step: null });
  await scene.client.send('POST', `${scene.path}/lines/reopen`, {
    target: { lineIds: ids.slice(0, 1) },
    seenStep: 1e6,
  });
  await scene.client.send('PATCH', scene.path, { lockDate: '2026-02-28' });
  const { items } = await scene.client.get<Steps>(`${scene.path}/steps`);
  expect(items.length).toBeGreaterThan(6);
  for (const { words, said } of items) expect(said && saidWords(said)).toBe(words);
  const [closed] = items;
  expect(closed?.said).toEqual({
    key: 'Closed the books up to {0}',
    values: [{ date: '2026-02-28' }],
  });
  expect(closed?.said && saidWords(closed.said, formatsOf('en-US'))).toBe(
    'Closed the books up to February 28, 2026',
  );
  const { history } = await scene.client.get<LineSheet>(`${scene.path}/lines/${ids[0]}`);
  expect(history.length).toBeGreaterThan(2);
  for (const { words, said } of history) expect(said && saidWords(said)).toBe(words);
});
