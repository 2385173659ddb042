import { fail } from '@zubrell/core/errors';
import { z } from 'zod';

/** What a part of a cursor is; each keeps to what its column can hold. */
const PARTS = {
  id: z.uuid(),
  date: z.iso.date(),
  moment: z.iso.datetime(),
  number: z.int().min(0).max(2_147_483_647),
  amount: z.int().min(-1e15).max(1e15),
  text: z.string().max(2_000),
} as const;

/** Packs where a page ended into an opaque cursor. */
export function cursorOf(...place: readonly (string | number)[]): string {
  return Buffer.from(JSON.stringify(place)).toString('base64url');
}

/**
 * Unpacks a cursor, or gives null for the first page.
 *
 * @param parts what it is made of: a cursor of another list has other parts
 * @throws {ZubrellError} CURSOR_FOREIGN
 */
export function placeOf(
  cursor: string | undefined,
  ...parts: readonly (keyof typeof PARTS)[]
): string[] | null {
  if (cursor === undefined) return null;
  try {
    const place: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString());
    if (Array.isArray(place) && place.length === parts.length) {
      return parts.map((part, index) => String(PARTS[part].parse(place[index])));
    }
  } catch {
    // Said below.
  }
  return fail('CURSOR_FOREIGN');
}
