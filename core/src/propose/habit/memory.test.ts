import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { habitLine, memoryOf, type Past, predicted, times } from '../../testing/decided.ts';
import { textOf, wordingFeatures } from './features.ts';
import { labelOf, type Memory, makeMemory } from './memory.ts';

const WORDINGS = ['TIDEMARK FREIGHT 1', 'COBBLE CAFE 2', 'BRINDLE FOODS GARRAN', 'LOAN DESK'];
const REFERENCES = [null, 'MANDATE 7730914', 'MANDATE 5510022', 'MANDATE 7730914 CUST 44120'];
const FREIGHT: Past = ['CRD PUR TIDEMARK FREIGHT 20318', -4_850, 'freight'];

const madeLine = fc.record({
  at: fc.nat(3),
  amount: fc.integer({ min: -9_000, max: -100 }),
  accountId: fc.constantFrom('a', 'b'),
  payeeId: fc.constantFrom('Tidemark', 'Cobble', 'somebody', null),
  reference: fc.constantFrom(...REFERENCES),
  date: fc.constantFrom('2026-01-05', '2026-02-11', '2026-02-12'),
  position: fc.nat(2),
});
type MadeLine = typeof madeLine extends fc.Arbitrary<infer Made> ? Made : never;

function teach(memory: Memory, made: MadeLine, id: string): void {
  const { at, amount, accountId, payeeId, reference, date, position } = made;
  const line = habitLine(WORDINGS[at] ?? '', amount, { reference, date });
  const label = labelOf(payeeId, WORDINGS[at] ?? '');
  const decided = { id, label, position, accountId, payeeId, taxCodeId: null, weight: 1 };
  memory.add(decided, line, wordingFeatures(textOf(line)));
}

/** All that a memory holds and says, as far as it can be asked. */
function said(memory: Memory) {
  const ofWording = WORDINGS.flatMap((wording) =>
    REFERENCES.map((reference) => {
      const found = predicted(memory, habitLine(wording, -4_000, { reference }));
      return found && { ...found, heard: found.heard.examples.map(({ id }) => id) };
    }),
  );
  const words = ['TIDEMARK', 'GARRAN', 'NEVER'];
  return {
    size: memory.size(),
    habits: memory
      .habits()
      .map(({ examples, separators }) => ({
        label: examples[0]?.label ?? '',
        lines: examples.map(({ id, day, accountId, numbers }) => [id, day, accountId, numbers]),
        separators,
      }))
      .sort((a, b) => (a.label < b.label ? -1 : 1)),
    ofWording,
    numbers: ['7730914', '5510022', '44120'].map(memory.timesOfNumber),
    rare: memory.rareWords(words),
    unknown: memory.unknownWords(words),
  };
}

describe('a memory', () => {
  it('depends on its lines only: not on their order, what was taken out between, or having been saved', () => {
    const walk = fc.record({
      lines: fc.array(madeLine, { minLength: 1, maxLength: 14 }),
      /** What is done with which of the lines: it is put in, or taken out where it is there. */
      turns: fc.array(fc.nat(13), { minLength: 1, maxLength: 40 }),
      /** After which turn it is saved and made anew. */
      savedAt: fc.nat(40),
    });
    fc.assert(
      fc.property(walk, ({ lines, turns, savedAt }) => {
        let memory = memoryOf(times(5, FREIGHT));
        const inside = new Set<number>();
        for (const [turn, wanted] of turns.entries()) {
          const at = wanted % lines.length;
          const made = lines[at];
          if (inside.delete(at)) memory.take(`new${at}`);
          else if (made) {
            teach(memory, made, `new${at}`);
            inside.add(at);
          }
          if (turn === savedAt) memory = makeMemory(structuredClone(memory.save()));
        }
        const fresh = memoryOf(times(5, FREIGHT));
        for (const [at, made] of lines.entries())
          if (inside.has(at)) teach(fresh, made, `new${at}`);
        expect(said(memory)).toEqual(said(fresh));
        expect(said(makeMemory(memory.save()))).toEqual(said(fresh));
      }),
      { numRuns: 120 },
    );
  });

  it('has a line back where it was', () => {
    const memory = memoryOf(times(3, FREIGHT));
    const before = said(memory);
    const putBack = memory.take('1');
    expect(memory.size()).toBe(2);
    putBack?.();
    expect(said(memory)).toEqual(before);
    expect(memory.take('never')).toBeUndefined();
  });

  it('holds lines without a payee together by what their wordings have in common', () => {
    const memory = makeMemory();
    for (const [at, wording] of ['LOAN DESK 1', 'LOAN DESK 2', 'OTHER 3'].entries()) {
      const decided = {
        id: `${at}`,
        label: labelOf(null, wording.replace(/ \d$/, '')),
        position: at,
      };
      const coded = { accountId: 'loans', payeeId: null, taxCodeId: null, weight: 1 };
      memory.add({ ...decided, ...coded }, habitLine(wording, -900), wordingFeatures(wording));
    }
    expect(memory.habits().map(({ examples }) => examples.map(({ id }) => id))).toEqual([
      ['0', '1'],
      ['2'],
    ]);
  });

  it('says whose habits there are, and gives each by itself, read or not', () => {
    const memory = memoryOf(times(3, FREIGHT));
    const stall = { id: 's', label: labelOf(null, 'STALL'), position: 0 };
    const coded = { accountId: 'stalls', payeeId: null, taxCodeId: null, weight: 1 };
    memory.add({ ...stall, ...coded }, habitLine('STALL', -900), wordingFeatures('STALL'));
    const all = memory.habits();
    const labels = all.map(({ examples }) => examples[0]?.label ?? '');
    for (const each of [memory, makeMemory(memory.save())]) {
      expect(each.sizes()).toEqual([
        { label: labels[0], times: 3 },
        { label: labels[1], times: 1 },
      ]);
      expect(labels.map((label) => each.habit(label)?.examples.map(({ id }) => id))).toEqual(
        all.map(({ examples }) => examples.map(({ id }) => id)),
      );
      each.take('s');
      expect(each.sizes()).toEqual([{ label: labels[0], times: 3 }]);
      expect(each.habit(labels[1] ?? '')).toBeNull();
      expect(each.habit('never')).toBeNull();
    }
  });

  it('says nothing while it is empty', () => {
    expect(predicted(makeMemory(), habitLine('TIDEMARK FREIGHT', -1))).toBeNull();
    expect(said(makeMemory(makeMemory().save())).size).toBe(0);
  });
});
