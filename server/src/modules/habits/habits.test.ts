import type { Stack } from '@zubrell/contract/desk';
import { describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lineIds, post, stacks, undo } = scene;

let count = 0;
function keep(texts: readonly string[], month: string) {
  const lines = texts.map((text, at) => {
    count += 1;
    const day = String(at + 1).padStart(2, '0');
    return { date: `${month}-${day}`, amount: '-12.00', text, id: `H${count}` };
  });
  return scene.books.keep(`${month}.ofx`, ofxFile(lines, '0.00'));
}

/** What is proposed for stacks by now, by their stems. */
async function proposed(): Promise<Map<string, Stack['proposal']>> {
  const found = [...(await stacks('ready')), ...(await stacks('check'))];
  return new Map(found.map(({ key, proposal }) => [key, proposal]));
}

/** Waits for what is worked out in the background. */
async function soon(isDone: () => Promise<boolean>): Promise<void> {
  for (let look = 0; look < 100 && !(await isDone()); look += 1) {
    await new Promise((done) => setTimeout(done, 50));
  }
  expect(await isDone()).toBe(true);
}

describe('what was posted', () => {
  it('teaches lines of other stems that share its rare word, a moment later', async () => {
    await keep(['LINNET POST COUNTER LYNMO', 'LINNET POST COUNTER GARRAN', 'QUAYSIDE'], '2026-03');
    expect(await stacks()).toHaveLength(3);
    const [lynmo] = (await stacks()).filter(({ key }) => key.includes('LYNMO'));
    const query = new URLSearchParams({
      lane: 'blank',
      grouping: 'lookAlikes',
      key: lynmo?.key ?? '',
      direction: 'out',
    });
    const { lines } = await scene.client.get<{ lines: { id: string }[] }>(
      `${scene.path}/stack-lines?${query}`,
    );
    await post(
      lines.map(({ id }) => id),
      '6010',
    );
    await soon(async () => (await proposed()).has('LINNET POST COUNTER GARRAN'));
    expect((await proposed()).get('LINNET POST COUNTER GARRAN')).toMatchObject({
      source: 'habit',
      coding: { parts: [{ accountId: await scene.books.accountId('6010') }] },
    });
    expect((await proposed()).has('QUAYSIDE')).toBe(false);
    await undo();
    await soon(async () => (await proposed()).size === 0);
  });

  it('is forgotten where its command was rolled back', async () => {
    await keep(['ORRIN BELL', 'ORRIN BELL'], '2026-03');
    const [first = '', second = ''] = await lineIds();
    await scene.client.send('PATCH', scene.path, { demands: { expense: ['note'] } });
    await expect(post([first], '6030')).rejects.toThrow('a note');
    await scene.client.send('PATCH', scene.path, { demands: {} });
    expect((await proposed()).size).toBe(0);
    await post([second], '6030');
    expect((await proposed()).get('ORRIN BELL')?.grounds).toMatchObject([{ times: 1, of: 1 }]);
  });

  it('weighs on the sureness that is shown with a line', async () => {
    await keep(['ORRIN BELL', 'ORRIN BELL', 'ORRIN BELL', 'ORRIN BELL'], '2026-02');
    const ids = await lineIds();
    await post(ids.slice(0, 3), '6030');
    const sheet = await scene.client.get<{ sureness: number }>(`${scene.path}/lines/${ids[3]}`);
    expect(sheet.sureness).toBeGreaterThan(0.8);
    expect(sheet.sureness).toBeLessThan(1);
  });
});
