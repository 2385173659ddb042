import type { Said as CoreSaid, SaidValue as CoreSaidValue } from '@zubrell/core/words/say';
import { z } from 'zod';
import { CalendarDate, Minor } from './common.ts';

const SaidValue: z.ZodType<CoreSaidValue, CoreSaidValue> = z.lazy(() =>
  z.union([
    z.string(),
    z.number(),
    z.object({ date: CalendarDate }),
    z.object({ month: z.string() }),
    z.object({ minor: Minor, currency: z.string(), plus: z.boolean().exactOptional() }),
    z.object({ count: z.int(), one: z.string(), other: z.string() }),
    Said,
  ]),
);

/** A message as it travels: its key, and the values that stand in it. */
export const Said: z.ZodType<CoreSaid, CoreSaid> = z.object({
  key: z.string(),
  values: z.array(SaidValue),
});
