import { z } from 'zod';

/** The column of an id of one kind of thing. */
export function idRow<Of extends string>(): z.ZodType<Of, Of> {
  return z.string() as unknown as z.ZodType<Of, Of>;
}

/** A row with nothing but what names a thing. */
export const IdRow = z.object({ id: z.string() });

/** A thing with its name. */
export const NamedRow = z.object({ id: z.string(), name: z.string() });

export const NameRow = z.object({ name: z.string() });

export const StemRow = z.object({ stem: z.string() });
