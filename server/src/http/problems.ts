import type { ProblemDetails } from '@zubrell/contract/common';
import {
  type ErrorCode,
  type ErrorParams,
  errors,
  messageOf,
  ZubrellError,
} from '@zubrell/core/errors';
import type { FastifyError, FastifyReply, FastifyRequest } from 'fastify';
import { hasZodFastifySchemaValidationErrors } from 'fastify-type-provider-zod';
import { knownError } from '../db/databaseErrors.ts';
import { errorFacts } from '../log.ts';
import { placeOf } from './logRequests.ts';

/** Whoever comes when the server is busy may come again after so many seconds. */
const RETRY_AFTER = 2;

/** Answers an error with problem details (RFC 9457). Only what is ours to mend is logged. */
export function answerProblem(
  error: unknown,
  request: FastifyRequest,
  reply: FastifyReply,
): FastifyReply {
  const known = requestError(error);
  if (known === null || known.code === 'INTERNAL') {
    request.log.error({ ...placeOf(request), error: errorFacts(error) }, 'failed');
  }
  const shown = known ?? new ZubrellError('INTERNAL');
  if (shown.status === 503) reply.header('retry-after', RETRY_AFTER);
  return reply
    .status(shown.status)
    .type('application/problem+json')
    .send(problemOf(shown.code, shown.params));
}

/** An error of the table as problem details. */
export function problemOf(code: ErrorCode, params: ErrorParams): ProblemDetails {
  const [status] = errors[code];
  return {
    type: `urn:zubrell:error:${code}`,
    title: messageOf(code, params),
    status,
    code,
    params: { ...params },
  };
}

/** The error of the table that an error of a request is, or null where it is none. */
export function requestError(error: unknown): ZubrellError | null {
  if (hasZodFastifySchemaValidationErrors(error)) {
    const [first] = error.validation;
    const place = first?.instancePath.split('/').filter(Boolean).join('.') ?? '';
    const detail = `${place === '' ? '' : `${place}: `}${first?.message ?? ''}`;
    return new ZubrellError('REQUEST_INVALID', { detail });
  }
  return knownError(error) ?? httpError(error as Partial<FastifyError>);
}

function httpError(error: Partial<FastifyError>): ZubrellError | null {
  if (error.statusCode === 429) return new ZubrellError('SIGN_IN_TOO_OFTEN', { seconds: 60 });
  if (error.statusCode === 413) return new ZubrellError('FILE_TOO_LARGE', { limit: 300 });
  const isBad = error.statusCode !== undefined && error.statusCode >= 400 && error.statusCode < 500;
  return isBad ? new ZubrellError('REQUEST_INVALID', { detail: error.message ?? '' }) : null;
}
