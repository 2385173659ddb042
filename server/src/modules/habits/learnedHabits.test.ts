import { createHash } from 'node:crypto';
import { wordingFeatures } from '@zubrell/core/propose/habit/features';
import { makeMemory } from '@zubrell/core/propose/habit/memory';
import { expect, it } from 'vitest';
import { LEARNED_VERSION } from './learnedHabits.ts';

const TEXTS = [
  'CRD PUR TIDEMARK FRT 20318',
  'SETTLEMENT TID 88121090 LYNMO 12.03',
  'Überweisung Café Ähre AB1234 RF18 5390',
  'DD ORRIN BELL MANDATE 7730914',
];

it('has a version for each way in which wordings are taken apart and kept', () => {
  const memory = makeMemory();
  for (const [position, description] of TEXTS.entries()) {
    const line = {
      date: '2026-03-01',
      amount: -100,
      description,
      reference: null,
      payee: null,
      bankAccountId: 'b',
    };
    const decided = { id: `${position}`, position, label: 'l', accountId: 'a', payeeId: null };
    memory.add({ ...decided, taxCodeId: null, weight: 1 }, line, wordingFeatures(description));
  }
  const saved = JSON.stringify(memory.save(), (_, value: unknown) =>
    ArrayBuffer.isView(value) ? [value.constructor.name, Object.values(value)] : value,
  );
  const digest = createHash('sha256').update(saved).digest('hex').slice(0, 16);
  // Where this fails, what was saved before can't be used: raise the version and put the new digest here.
  expect({ version: LEARNED_VERSION, digest }).toEqual({ version: 2, digest: 'ea41c676302506f3' });
});
