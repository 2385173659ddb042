import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SeenHashes } from './seenHashes.ts';

describe('Hashes of texts', () => {
  it('tell of each text whether it was seen, as a set does', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 6 }), { maxLength: 200 }), (texts) => {
        const [seen, set] = [new SeenHashes(), new Set<string>()];
        for (const text of texts) {
          expect(seen.add(text)).toBe(set.has(text));
          set.add(text);
        }
      }),
    );
  });

  it('tell apart a hundred thousand running numbers, and know all of them again', () => {
    const seen = new SeenHashes();
    const ids = Array.from({ length: 100_000 }, (_, at) => `202603${at}-${at % 7}`);
    expect(ids.filter((id) => seen.add(id))).toEqual([]);
    expect(ids.every((id) => seen.add(id))).toBe(true);
  });
});
