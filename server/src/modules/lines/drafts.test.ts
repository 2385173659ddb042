import type { DraftCoding } from '@zubrell/contract/coding';
import type { StackKey } from '@zubrell/contract/desk';
import { beforeEach, describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let stack: StackKey;
let ids: string[];

const noted = (note: string | null): DraftCoding => ({
  payeeId: null,
  accountId: null,
  taxCodeId: null,
  note,
  tax: null,
  parts: null,
});
const ofStack = (note: string, before: DraftCoding | null, of = stack) =>
  scene.client.send<{ count: number }>('PUT', `${scene.path}/stack-draft`, {
    stack: of,
    lane: 'blank',
    scope: {},
    coding: noted(note),
    before,
  });
const ofLine = (id: string, note: string, version: number) =>
  scene.client.send('PUT', `${scene.path}/lines/${id}/draft`, { coding: noted(note), version });

beforeEach(async () => {
  const lines = ['1', '2', '3'].map((id) => ({
    date: '2026-03-03',
    amount: '-48.50',
    text: `TIDEMARK FRT ${id}`,
    id,
  }));
  await scene.books.keep('march.ofx', ofxFile(lines, '854.50'));
  const [found] = await scene.stacks('blank');
  stack = {
    grouping: 'lookAlikes',
    key: found?.key ?? '',
    direction: found?.direction ?? 'out',
  };
  ids = await scene.lineIds('blank');
});

describe('what is typed on the head of a stack', () => {
  it('is there again when the stack is looked at later', async () => {
    expect(await ofStack('freight', null)).toEqual({ count: 3 });
    expect((await scene.stacks('blank'))[0]).toMatchObject({
      draft: { note: 'freight' },
      draftCount: 3,
    });
    expect(await ofStack('freight, March', noted('freight'))).toEqual({ count: 3 });
    expect((await scene.stacks('blank'))[0]?.draft?.note).toBe('freight, March');
  });

  it('leaves a line alone that somebody typed something else into', async () => {
    const [own = ''] = ids;
    await ofLine(own, 'import duty', 0);
    expect(await ofStack('freight', null)).toEqual({ count: 2 });
    expect((await scene.stacks('blank'))[0]).toMatchObject({ draft: null, draftCount: 3 });
    expect(await ofStack('freight, March', noted('freight'))).toEqual({ count: 2 });
    // A line that followed can be typed into by itself, from the version that it has now.
    await ofLine(ids[1] ?? '', 'another', 2);
    await expect(ofLine(own, 'stale', 0)).rejects.toThrow('DRAFT_CHANGED');
  });

  it('is kept with no line of another stack', async () => {
    expect(await ofStack('freight', null, { ...stack, direction: 'in' })).toEqual({ count: 0 });
  });
});
