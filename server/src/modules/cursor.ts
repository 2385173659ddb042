import { fail } from '@zubrell/core/errors';

/** Packs where a page ended into an opaque cursor. */
export function cursorOf(...place: readonly (string | number)[]): string {
  return Buffer.from(JSON.stringify(place)).toString('base64url');
}

/** Unpacks a cursor of `size` parts, or gives null for the first page. @throws REQUEST_INVALID */
export function placeOf(cursor: string | undefined, size: number): string[] | null {
  if (cursor === undefined) return null;
  try {
    const place: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString());
    if (Array.isArray(place) && place.length === size) return place.map(String);
  } catch {
    // Said below.
  }
  return fail('REQUEST_INVALID', { detail: 'the cursor is none of ours' });
}
