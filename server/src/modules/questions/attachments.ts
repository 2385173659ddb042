import { randomUUID } from 'node:crypto';
import { Attachment } from '@zubrell/contract/questions';
import { type ErrorCode, fail } from '@zubrell/core/errors';
import type { BooksId, DocumentId, EntryId, LineId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { attachments } from '../../db/schema/questions.ts';
import type { UploadedFile } from '../../uploadedFile.ts';
import type { Acting } from '../steps/booksCommand.ts';

/** The largest attachment taken, in bytes. */
export const LARGEST_ATTACHMENT = 10 * 1024 * 1024;
/** So much is kept with the lines of one set of books, in bytes. */
const MOST_KEPT = 4 * 1024 ** 3;

const SIGNATURES: readonly (readonly [Attachment['type'], readonly number[]])[] = [
  ['application/pdf', [0x25, 0x50, 0x44, 0x46, 0x2d]],
  ['image/png', [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]],
  ['image/jpeg', [0xff, 0xd8, 0xff]],
];

/** What a file is by its first bytes, whatever its name says; null for anything else. */
export function attachmentTypeOf(bytes: Uint8Array): Attachment['type'] | null {
  const found = SIGNATURES.find(([, start]) => start.every((byte, at) => bytes[at] === byte));
  if (found) return found[0];
  // An electronic invoice begins with the declaration of XML, or with its root.
  const start = new TextDecoder()
    .decode(bytes.subarray(0, 200))
    .replace(/^\uFEFF/, '')
    .trimStart();
  return /^<(\?xml|(\w+:)?(Invoice|CreditNote|CrossIndustryInvoice)[\s>])/.test(start)
    ? 'application/xml'
    : null;
}

const BytesRow = z.object({ bytes: z.number() });

/** What an attachment is kept with. */
export type KeptWith =
  | { readonly lineId: LineId }
  | { readonly documentId: DocumentId }
  | { readonly entryId: EntryId };

/** What it has to be in the books for an attachment to be kept with it. */
function holderOf(booksId: BooksId, keptWith: KeptWith): readonly [SQL, ErrorCode] {
  if ('lineId' in keptWith) {
    const line = sql`select from lines where books_id = ${booksId} and id = ${keptWith.lineId}`;
    return [line, 'LINE_UNKNOWN'];
  }
  if ('entryId' in keptWith) {
    return [
      sql`select from entries where books_id = ${booksId} and id = ${keptWith.entryId}
            and content is not null`,
      'ENTRY_UNKNOWN',
    ];
  }
  return [
    sql`select from documents where books_id = ${booksId} and id = ${keptWith.documentId}`,
    'DOCUMENT_UNKNOWN',
  ];
}

/**
 * Keeps an attachment with a line, a document or an entry made by hand, for ever.
 *
 * @throws {ZubrellError} ATTACHMENT_TYPE, ATTACHMENTS_TOO_MUCH, LINE_UNKNOWN, DOCUMENT_UNKNOWN, ENTRY_UNKNOWN
 */
export async function addAttachment(
  { tx, booksId, clock, actor }: Acting,
  keptWith: KeptWith,
  fileName: string,
  file: UploadedFile,
): Promise<string> {
  const [holder, unknown] = holderOf(booksId, keptWith);
  if ((await countRows(tx, holder)) === 0) fail(unknown);
  const [held] = await rowsOf(
    tx,
    BytesRow,
    sql`select coalesce(sum(size), 0)::bigint as bytes from attachments where books_id = ${booksId}`,
  );
  if ((held?.bytes ?? 0) + file.size > MOST_KEPT) {
    fail('ATTACHMENTS_TOO_MUCH', { limit: MOST_KEPT / 1024 ** 2 });
  }
  const pieces: Uint8Array[] = [];
  for await (const piece of file.pieces) pieces.push(piece);
  const bytes = Buffer.concat(pieces);
  const type = attachmentTypeOf(bytes) ?? fail('ATTACHMENT_TYPE');
  const id = randomUUID();
  await tx.insert(attachments).values({
    booksId,
    id,
    ...keptWith,
    fileName,
    type,
    size: bytes.length,
    bytes,
    addedBy: actor.userId,
    at: clock.now(),
  });
  return id;
}

/** An attachment with its bytes. */
const WholeAttachment = Attachment.pick({ fileName: true, type: true }).extend({
  /** Null where it is kept with a document or an entry. */
  lineId: idRow<LineId>().nullable(),
  bytes: z.instanceof(Buffer),
});
type WholeAttachment = z.infer<typeof WholeAttachment>;

/** An attachment of the books. @throws {ZubrellError} ATTACHMENT_UNKNOWN */
export async function attachmentOf(tx: Tx, booksId: BooksId, id: string): Promise<WholeAttachment> {
  const [row] = await rowsOf(
    tx,
    WholeAttachment,
    sql`select line_id as "lineId", file_name as "fileName", type, bytes from attachments
        where books_id = ${booksId} and id = ${id}`,
  );
  return row ?? fail('ATTACHMENT_UNKNOWN');
}
