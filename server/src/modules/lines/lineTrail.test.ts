import type { LineSheet } from '@zubrell/contract/desk';
import { describe, expect, it } from 'vitest';
import { bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const FREIGHT = 'TIDEMARK FRT';

/** Adds a line on a day, and gives its sheet. */
async function lineOn(day: string, text = FREIGHT): Promise<LineSheet> {
  const mo = bookkeeper(scene.client, scene.books.id);
  const { id } = await mo.addLine(
    scene.books.bankAccountId,
    day,
    -4_850,
    `${text} ${day.slice(-2)}`,
  );
  return mo.line(id);
}

describe('the trail of a line', () => {
  it('keeps what look-alikes first proposed, who decided, and each change', async () => {
    const mo = bookkeeper(scene.client, scene.books.id);
    const freight = mo.codingTo(await scene.books.accountId('6010'));
    const other = await scene.books.accountId('6070');
    for (const day of ['2026-03-02', '2026-03-03', '2026-03-04']) {
      const { id } = await lineOn(day);
      await mo.post([id], freight);
    }
    const { id, first } = await lineOn('2026-03-05');
    expect(first?.proposal).toMatchObject({ kind: 'post', source: 'habit' });
    expect(first?.rule).toBeNull();
    await mo.post([id], freight);
    await mo.recode([id], { accountId: other });
    const { history, first: still } = await mo.line(id);
    expect(still).toEqual(first);
    expect(history.map(({ who, decision }) => [who, decision?.by, decision?.isKept])).toEqual([
      ['Mo Oakes', 'hand', false],
      ['Mo Oakes', 'habit', true],
      ['Mo Oakes', undefined, undefined],
    ]);
    // What was coded before anything was proposed had no first proposal.
    const blank = await lineOn('2026-03-06', 'PENHALLOW CLAY');
    expect(blank.first).toBeNull();
  });

  it('names the version of the rule that proposed, then and when it was posted', async () => {
    const mo = bookkeeper(scene.client, scene.books.id);
    const accountId = await scene.books.accountId('6010');
    const part = { accountId, taxCodeId: null, share: { kind: 'rest' }, tax: null };
    const body = (after: 'hold') => ({
      takes: {
        direction: 'out',
        bankAccountIds: null,
        match: 'all',
        conditions: [
          { kind: 'text', field: 'wording', test: 'has', text: 'nettle', isExact: false },
        ],
      },
      result: { kind: 'code', payee: { kind: 'open' }, parts: [part], note: null },
      after: { kind: after },
    });
    const rule = { isOn: true, body: body('hold'), seenStep: 1e9 };
    const { id: ruleId } = await scene.client.send<{ id: string }>('POST', `${scene.path}/rules`, {
      ...rule,
      name: 'Thread',
    });
    const { id, first } = await lineOn('2026-03-02', 'NETTLE AND THREAD');
    expect(first?.rule).toEqual({ name: 'Thread', version: 1 });
    await scene.client.send('PUT', `${scene.path}/rules/${ruleId}`, {
      ...rule,
      name: 'Thread and yarn',
    });
    await mo.post([id], mo.codingTo(accountId));
    const { history, first: still } = await mo.line(id);
    expect(still?.rule?.version).toBe(1);
    expect(history[0]?.decision).toMatchObject({ by: 'rule', rule: { version: 2 } });
  });
});
