import { Role } from '@zubrell/contract/books';
import type { Access } from '@zubrell/contract/endpoint';
import type { User } from '@zubrell/contract/session';
import { fail } from '@zubrell/core/errors';
import type { BooksId, UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import '@fastify/cookie';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { rowsOf } from '../db/database.ts';
import { sessionCookie, userOfSession } from '../modules/session/sessions.ts';
import type { Services } from '../services.ts';
import type { SessionOptions } from './routes/session.ts';

declare module 'fastify' {
  interface FastifyContextConfig {
    access?: Access;
  }
  interface FastifyRequest {
    user: User | null;
    /** The id of the user's session. */
    session: string | null;
    /** Of the user, in the books that the address names. */
    role: Role | null;
  }
}

const RANK: Readonly<Record<Role, number>> = { client: 0, reviewer: 1, bookkeeper: 2, owner: 3 };
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/**
 * Checks every request in one place: where a change comes from, the session, and the role in the
 * books. A route that names no access can't be reached.
 */
export function checkAccess(
  app: FastifyInstance,
  services: Services,
  { hosts }: Pick<SessionOptions, 'hosts'>,
): void {
  app.decorateRequest('user', null);
  app.decorateRequest('session', null);
  app.decorateRequest('role', null);
  // What the API answers is nobody's but the asker's: no cache keeps it.
  app.addHook('onSend', async (request, reply) => {
    if (request.url.startsWith('/api/')) reply.header('cache-control', 'no-store');
  });
  app.addHook('preValidation', async (request) => {
    if (request.is404 || !request.url.startsWith('/api/')) return;
    if (!isOwnHost(request, hosts)) fail('HOST_FOREIGN');
    if (!isSameOrigin(request)) fail('ORIGIN_FOREIGN');
    const { access } = request.routeOptions.config;
    if (access === undefined) fail('NOT_FOUND');
    const id = request.cookies[sessionCookie];
    request.user = id ? await userOfSession(services.database, services, id) : null;
    request.session = request.user === null ? null : (id ?? null);
    if (access === 'anyone') return;
    if (request.user === null) fail('SIGN_IN_NEEDED');
    if (access === 'signedIn') return;
    const role = await roleIn(request, services, request.user.id);
    if (role === null) fail('BOOKS_UNKNOWN');
    request.role = role;
    if (RANK[role] < RANK[access]) fail('ROLE_TOO_LOW', { role });
  });
}

/** Whether a changing request comes from a page of ours. Browsers always name the origin then. */
function isSameOrigin(request: FastifyRequest): boolean {
  const { origin, host, 'sec-fetch-site': site } = request.headers;
  if (request.method === 'GET' || request.method === 'HEAD') return true;
  if (site !== undefined && site !== 'same-origin' && site !== 'none') return false;
  if (origin === undefined) return true;
  try {
    return new URL(origin).host === host;
  } catch {
    return false;
  }
}

/**
 * Whether a request names a host that this server has: otherwise a page of somebody else's, whose name was turned to
 * this machine, would be taken for one of ours. An address can't be turned so, and loopback's name is always ours.
 */
function isOwnHost({ headers }: FastifyRequest, hosts: readonly string[]): boolean {
  const { host } = headers;
  if (host === undefined) return false;
  const name = host.replace(/:\d+$/, '').toLowerCase();
  return name === 'localhost' || ADDRESS.test(name) || hosts.includes(name);
}

const ADDRESS = /^(\d{1,3}(\.\d{1,3}){3}|\[[\da-f:.]+\])$/;

/** The books that an address names, whether or not they are there. */
export function namedBooks({ params }: FastifyRequest): string | null {
  const { booksId } = (params ?? {}) as { booksId?: BooksId };
  return booksId !== undefined && UUID.test(booksId) ? booksId : null;
}

const RoleRow = z.object({ role: Role });

async function roleIn(
  request: FastifyRequest,
  { database }: Services,
  userId: UserId,
): Promise<Role | null> {
  const booksId = namedBooks(request);
  if (booksId === null) return null;
  const [row] = await rowsOf(
    database,
    RoleRow,
    sql`select role from memberships where books_id = ${booksId} and user_id = ${userId}`,
  );
  return row?.role ?? null;
}
