import { z } from 'zod';

/** Amounts on the wire: integers in minor units, in positive, out negative. */
export const Minor = z.int().meta({ description: 'Minor units; in +, out −' });

/** Calendar dates on the wire. */
export const CalendarDate = z.iso.date();

export const Id = z.uuid();

/** Problem details (RFC 9457) with the error's code and values. */
export const ProblemDetails = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  code: z.string(),
  params: z.record(z.string(), z.union([z.string(), z.number()])),
});
export type ProblemDetails = z.infer<typeof ProblemDetails>;

export const BooksParams = z.object({ booksId: Id });

/** A page of a long list; `next` is the cursor of the page after it, or null. */
export function page<Item extends z.ZodType>(item: Item) {
  return z.object({ items: z.array(item), next: z.string().nullable() });
}

/** What a command did: the step it made, to be named, undone or waited for. */
export const StepDone = z.object({ step: z.int(), words: z.string() });
export type StepDone = z.infer<typeof StepDone>;
