import { z } from 'zod';

/** A row with nothing but what names a thing. */
export const IdRow = z.object({ id: z.string() });

/** A thing with its name. */
export const NamedRow = z.object({ id: z.string(), name: z.string() });

export const NameRow = z.object({ name: z.string() });

export const StemRow = z.object({ stem: z.string() });
