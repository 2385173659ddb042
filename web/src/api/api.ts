import { createApi } from '@reduxjs/toolkit/query/react';
import { tags } from '@zubrell/contract/touched';
import { patientQuery } from './patientQuery.ts';

/** What the browser keeps of the server. Each part's file beside this one adds the endpoints of its part. */
export const api = createApi({
  baseQuery: patientQuery,
  tagTypes: tags,
  keepUnusedDataFor: 30,
  endpoints: () => ({}),
});
