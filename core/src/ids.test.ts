import { expect, expectTypeOf, it } from 'vitest';
import type { BankAccountId, EntryId, LineId, PayeeId } from './ids.ts';

it('tells the ids of different kinds of things apart, and takes any text for one', () => {
  expectTypeOf<LineId>().not.toExtend<EntryId>();
  expectTypeOf<BankAccountId | null>().not.toExtend<PayeeId | null>();
  expectTypeOf<string>().toExtend<LineId>();
  expectTypeOf<LineId>().toExtend<string>();
  const ofLine: LineId = 'a line';
  // @ts-expect-error the id of a line is none of an entry
  const ofEntry: EntryId = ofLine;
  expect(ofEntry).toBe(ofLine);
});
