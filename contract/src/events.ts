import { z } from 'zod';
import { touchedThings } from './touched.ts';

/** What browsers are told when something was done in books. */
export const StepEvent = z.object({
  /** The newest step; of what is no step itself, the one before. */
  step: z.int(),
  touched: z.array(z.enum(touchedThings)),
  /** The key that the asking browser gave its request, so that it knows its own; null where there was none. */
  by: z.string().nullable(),
});
export type StepEvent = z.infer<typeof StepEvent>;
