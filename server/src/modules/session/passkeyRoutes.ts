import {
  AddPasskey,
  PasskeyOptions,
  Passkeys,
  Session,
  SignInByPasskey,
} from '@zubrell/contract/session';
import { fail } from '@zubrell/core/errors';
import type { FastifyRequest } from 'fastify';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import type { Services } from '../../services.ts';
import { recordRequest } from '../audit/recordAccess.ts';
import {
  addPasskey,
  beginPasskey,
  beginPasskeySignIn,
  type Page,
  passkeysOf,
  removePasskey,
  userByPasskey,
} from './passkeys.ts';
import { ATTEMPTS, type SessionOptions, signInAnswer } from './routes.ts';

/** Passkeys: making and removing them, and signing in with one. */
export function passkeyRoutes(api: Api, services: Services, options: SessionOptions): void {
  const { database } = services;
  const pageOf = (request: FastifyRequest): Page => {
    const { host = '' } = request.headers;
    const scheme = options.isSecure ? 'https' : 'http';
    return { origin: `${scheme}://${host}`, host: host.replace(/:\d+$/, '').toLowerCase() };
  };

  api.get(
    '/api/session/passkeys',
    { config: { access: 'signedIn' }, schema: { response: { 200: Passkeys } } },
    async (request) => ({ passkeys: await passkeysOf(database, userOf(request).id) }),
  );

  api.post(
    '/api/session/passkeys/begin',
    { config: { access: 'signedIn' }, schema: { response: { 200: PasskeyOptions } } },
    (request) => beginPasskey(database, pageOf(request), userOf(request)),
  );

  api.post(
    '/api/session/passkeys',
    {
      config: { access: 'signedIn' },
      schema: { body: AddPasskey, response: { 200: z.object({}) } },
    },
    async (request) => {
      await database.transaction(async (tx) => {
        await addPasskey(tx, pageOf(request), userOf(request).id, request.body);
        await recordRequest(tx, request, { kind: 'passkeyAdded', booksId: null });
      });
      return {};
    },
  );

  api.post(
    '/api/session/passkeys/remove',
    {
      config: { access: 'signedIn' },
      schema: { body: z.object({ id: z.string().max(2_000) }), response: { 200: z.object({}) } },
    },
    async (request) => {
      await database.transaction(async (tx) => {
        await removePasskey(tx, userOf(request).id, request.body.id);
        await recordRequest(tx, request, { kind: 'passkeyRemoved', booksId: null });
      });
      return {};
    },
  );

  api.post(
    '/api/session/passkey/begin',
    {
      config: { access: 'anyone', rateLimit: ATTEMPTS },
      schema: { response: { 200: PasskeyOptions } },
    },
    (request) => beginPasskeySignIn(database, pageOf(request)),
  );

  api.post(
    '/api/session/passkey',
    {
      config: { access: 'anyone', rateLimit: ATTEMPTS },
      schema: { body: SignInByPasskey, response: { 200: Session } },
    },
    async (request, reply) => {
      const user = await userByPasskey(database, pageOf(request), request.body);
      return signInAnswer(services, options, request, reply, user, 'passkeyUsed');
    },
  );
}

function userOf({ user }: FastifyRequest) {
  return user ?? fail('SIGN_IN_NEEDED');
}
