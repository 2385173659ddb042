import fc from 'fast-check';
import { expect, it } from 'vitest';
import { countTexts, packTexts, textAt } from './packedTexts.ts';

it('gives each text back by its place, also empty and foreign ones', () => {
  fc.assert(
    fc.property(fc.array(fc.string({ unit: 'grapheme' })), (texts) => {
      const packed = packTexts(texts);
      expect(countTexts(packed)).toBe(texts.length);
      expect(texts.map((_, place) => textAt(packed, place))).toEqual(texts);
    }),
  );
});
