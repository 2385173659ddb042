import {
  type BaseQueryFn,
  type FetchArgs,
  type FetchBaseQueryError,
  fetchBaseQuery,
  retry,
} from '@reduxjs/toolkit/query/react';

/** So often a request is sent again while the server is busy. */
const MOST_TRIES = 4;
/** Milliseconds before the first time, and so much more before each other. */
const WAIT = 1_000;

/**
 * Asks the server, and again by itself where it says that it is busy: nothing was changed then, and changes carry a
 * key by which the server knows that they are the same.
 */
export const patientQuery: BaseQueryFn<string | FetchArgs, unknown, FetchBaseQueryError> = retry(
  fetchBaseQuery({ baseUrl: '/api' }),
  {
    retryCondition: (error, _args, { attempt }) =>
      (error as FetchBaseQueryError).status === 503 && attempt <= MOST_TRIES,
    backoff: (attempt) => new Promise((done) => setTimeout(done, WAIT * attempt)),
  },
);
