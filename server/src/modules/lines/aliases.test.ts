import type { StepDone } from '@zubrell/contract/common';
import type { StackParts } from '@zubrell/contract/desk';
import { describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { undo } = scene;

const line = (day: string, text: string) => ({
  date: `2026-03-${day}`,
  amount: '-10.00',
  text,
  id: `${day} ${text}`,
});

async function stacks(): Promise<Record<string, number>> {
  return Object.fromEntries((await scene.stacks()).map(({ key, count }) => [key, count]));
}

const merge = (stems: string[], into: string) =>
  scene.client.send<StepDone>('POST', `${scene.path}/stacks/merge`, { stems, into });
const split = (stem: string, ...words: string[]) =>
  scene.client.send<StepDone>('POST', `${scene.path}/stacks/split`, { stem, words });

describe('stacks put together', () => {
  it('stay together for what comes, until that is taken back', async () => {
    const first = [line('01', 'TIDEMARK FRT'), line('02', 'TDMRK FREYT')];
    await scene.books.keep('a.ofx', ofxFile(first, '980.00'));
    expect(await stacks()).toEqual({ 'TIDEMARK FRT': 1, 'TDMRK FREYT': 1 });
    const { step } = await merge(['TIDEMARK FRT', 'TDMRK FREYT'], 'TIDEMARK FRT');
    expect(await stacks()).toEqual({ 'TIDEMARK FRT': 2 });
    await scene.books.keep('b.ofx', ofxFile([line('03', 'TDMRK FREYT')], '970.00'));
    expect(await stacks()).toEqual({ 'TIDEMARK FRT': 3 });
    await undo(step);
    expect(await stacks()).toEqual({ 'TIDEMARK FRT': 1, 'TDMRK FREYT': 2 });
  });

  it('take along what was put together with them before', async () => {
    const lines = [line('01', 'ONE PAYEE'), line('02', 'TWO PAYEE'), line('03', 'THIRD PAYEE')];
    await scene.books.keep('a.ofx', ofxFile(lines, '970.00'));
    await merge(['ONE PAYEE', 'TWO PAYEE'], 'TWO PAYEE');
    await merge(['TWO PAYEE', 'THIRD PAYEE'], 'THIRD PAYEE');
    expect(await stacks()).toEqual({ 'THIRD PAYEE': 3 });
    await expect(merge(['THIRD PAYEE', 'THIRD PAYEE'], 'THIRD PAYEE')).rejects.toThrow(
      'STACKS_SAME',
    );
  });
});

describe('a word that sets lines apart', () => {
  it('does so for what is here and what comes', async () => {
    const lines = [line('01', 'GLAZEWORKS ONLINE'), line('02', 'GLAZEWORKS ONLINE IMPORT')];
    await scene.books.keep('a.ofx', ofxFile(lines, '980.00'));
    const [stem = ''] = Object.keys(await stacks());
    const own = await stacks();
    if (Object.keys(own).length > 1) await merge(Object.keys(own), stem);
    await split(stem, 'import');
    expect(Object.values(await stacks())).toEqual([1, 1]);
    await scene.books.keep('b.ofx', ofxFile([line('04', 'GLAZEWORKS ONLINE IMPORT')], '970.00'));
    expect((await stacks())[`${stem} · IMPORT`]).toBe(2);
    await expect(split(stem, 'nowhere')).rejects.toThrow('STACK_WORD');
  });
});

describe('numbers that tell the lines of a stack apart', () => {
  it('are found, and split it in one step that is undone in one', async () => {
    const lines = ['01', '02', '03', '04'].flatMap((day) => [
      line(day, 'CARD TAKINGS TERMINAL 40117730'),
      line(day, 'CARD TAKINGS TERMINAL 40117748'),
    ]);
    await scene.books.keep('a.ofx', ofxFile(lines, '920.00'));
    const [stem = ''] = Object.keys(await stacks());
    const query = new URLSearchParams({
      lane: 'blank',
      grouping: 'lookAlikes',
      key: stem,
      direction: 'out',
    });
    const { found } = await scene.client.get<{ found: StackParts | null }>(
      `${scene.path}/stack-parts?${query}`,
    );
    expect(found).toEqual({
      before: 'TERMINAL',
      parts: [
        { word: '40117730', count: 4 },
        { word: '40117748', count: 4 },
      ],
    });
    const { step, words } = await split(stem, '40117730', '40117748');
    expect(words).toBe(`Split ${stem} by 40117730, 40117748`);
    expect(await stacks()).toEqual({ [`${stem} · 40117730`]: 4, [`${stem} · 40117748`]: 4 });
    await undo(step);
    expect(await stacks()).toEqual({ [stem]: 8 });
  });
});
