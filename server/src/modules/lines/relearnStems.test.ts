import { describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const TOWNS = ['LYNMO', 'GARRAN', 'ST HESTER'];
const PAYEES = ['LINNET COUNTER', 'STAGWELL PUMP', 'COBBLE OVEN', 'TIDEMARK FRT', 'PENHALLOW CLAY'];

let count = 0;
function keep(texts: readonly string[]) {
  const lines = texts.map((text) => {
    count += 1;
    return { date: '2026-03-01', amount: `-${count}.00`, text, id: `L${count}` };
  });
  return scene.books.keep(`${count}.ofx`, ofxFile(lines, '0.00'));
}
const stacks = async () =>
  Object.fromEntries((await scene.stacks()).map(({ key, count: lines }) => [key, lines]));
const send = (path: string, body: object) =>
  scene.client.send('POST', `${scene.path}${path}`, body);

describe('stacks', () => {
  it('are put together without towns, once other payees show that they are towns', async () => {
    await keep(TOWNS.map((town) => `LINNET COUNTER ${town}`));
    expect(Object.keys(await stacks())).toHaveLength(3);
    const others = PAYEES.slice(1).flatMap((payee) => TOWNS.map((town) => `${payee} ${town}`));
    await keep(others);
    expect(await stacks()).toEqual(Object.fromEntries(PAYEES.map((payee) => [payee, 3])));
    await keep(['LINNET COUNTER GARRAN', 'LINNET COUNTE']);
    expect(await stacks()).toMatchObject({ 'LINNET COUNTER': 5 });
  });

  it('stay as somebody said, whatever is learned after', async () => {
    await keep(PAYEES.flatMap((payee) => TOWNS.map((town) => `${payee} ${town}`)));
    await send('/stacks/split', { stem: 'LINNET COUNTER', words: ['lynmo'] });
    expect(await stacks()).toMatchObject({ 'LINNET COUNTER': 2, 'LINNET COUNTER · LYNMO': 1 });
    await send('/stacks/merge', { stems: ['COBBLE OVEN', 'TIDEMARK FRT'], into: 'TIDEMARK FRT' });
    expect(await stacks()).toMatchObject({ 'TIDEMARK FRT': 6 });
    await keep(['LINNET COUNTER LYNMO', 'COBBLE OVEN LYNMO', 'STAGWELL PUMP LYNMO']);
    expect(await stacks()).toMatchObject({
      'LINNET COUNTER · LYNMO': 2,
      'TIDEMARK FRT': 7,
      'STAGWELL PUMP': 4,
    });
    await scene.undo();
  });

  it('are by payee in any language: words before many names are left out', async () => {
    const names = 'ADLER BIRKE DROSSEL EIBE FINK GIMPEL HASEL ILTIS KIEFER LERCHE MEISE NELKE';
    const payments = names
      .split(' ')
      .flatMap((name) => [
        `GUTSCHRIFT ${name} HOF ${count}`,
        `UEBERWEISUNG ${name} HOF`,
        `GUTSCHRIFT ${name} HOF`,
      ]);
    await keep(payments);
    const found = await stacks();
    expect(found['ADLER HOF']).toBe(3);
    expect(Object.keys(found)).toHaveLength(12);
    await keep(['GUTSCHRIFT ADLER HOF 88']);
    expect(await stacks()).toMatchObject({ 'ADLER HOF': 4 });
  });
});
