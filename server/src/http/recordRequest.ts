import type { FastifyRequest } from 'fastify';
import type { Database, Tx } from '../db/database.ts';
import { type AccessRecord, recordAccess } from '../modules/audit/recordAccess.ts';
import { openedFrom } from '../openedFrom.ts';
// What it knows of a request: the session.
import type {} from './access.ts';

/** Puts on record what a request did. */
export function recordRequest(
  tx: Tx | Database,
  request: FastifyRequest,
  record: AccessRecord,
): Promise<void> {
  return recordAccess(tx, request.session, openedFrom(request), record);
}
