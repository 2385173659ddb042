import { auditEndpoints } from '@zubrell/contract/endpoints/audit';
import { inject } from './inject.ts';

const { isPaged: _isPaged, ...recordPage } = auditEndpoints.records;

/** What is on record, and the same page by page for a file. */
export const auditApi = inject(
  { ...auditEndpoints, recordPage },
  {
    records: { keepUnusedDataFor: 0 },
    recordPage: { keepUnusedDataFor: 0 },
    checkChains: { keepUnusedDataFor: 0 },
  },
);
