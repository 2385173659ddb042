import { sessionEndpoints } from '@zubrell/contract/endpoints/session';
import { fail } from '@zubrell/core/errors';
import type { FastifyRequest } from 'fastify';
import {
  addPasskey,
  beginPasskey,
  beginPasskeySignIn,
  type Page,
  passkeysOf,
  removePasskey,
  userByPasskey,
} from '../../modules/session/passkeys.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { recordRequest } from '../recordRequest.ts';
import { serve } from '../serve.ts';
import { ATTEMPTS, type SessionOptions, signInAnswer } from './session.ts';

/** Passkeys: making and removing them, and signing in with one. */
export function passkeyRoutes(api: Api, services: Services, options: SessionOptions): void {
  const { database } = services;
  const pageOf = (request: FastifyRequest): Page => {
    const { host = '' } = request.headers;
    const scheme = options.isSecure ? 'https' : 'http';
    return { origin: `${scheme}://${host}`, host: host.replace(/:\d+$/, '').toLowerCase() };
  };

  serve(api, sessionEndpoints.passkeys, async (request) => ({
    passkeys: await passkeysOf(database, userOf(request).id),
  }));

  serve(api, sessionEndpoints.beginPasskey, (request) =>
    beginPasskey(database, pageOf(request), userOf(request)),
  );

  serve(api, sessionEndpoints.addPasskey, async (request) => {
    await database.transaction(async (tx) => {
      await addPasskey(tx, pageOf(request), userOf(request).id, request.body);
      await recordRequest(tx, request, { kind: 'passkeyAdded', booksId: null });
    });
    return {};
  });

  serve(api, sessionEndpoints.removePasskey, async (request) => {
    await database.transaction(async (tx) => {
      await removePasskey(tx, userOf(request).id, request.body.id);
      await recordRequest(tx, request, { kind: 'passkeyRemoved', booksId: null });
    });
    return {};
  });

  serve(
    api,
    sessionEndpoints.beginPasskeySignIn,
    (request) => beginPasskeySignIn(database, pageOf(request)),
    { rateLimit: ATTEMPTS },
  );

  serve(
    api,
    sessionEndpoints.signInByPasskey,
    async (request, reply) => {
      const user = await userByPasskey(database, pageOf(request), request.body);
      return signInAnswer({ services, options }, { request, reply }, user, 'passkeyUsed');
    },
    { rateLimit: ATTEMPTS },
  );
}

function userOf({ user }: FastifyRequest) {
  return user ?? fail('SIGN_IN_NEEDED');
}
