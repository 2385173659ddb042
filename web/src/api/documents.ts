import { documentEndpoints } from '@zubrell/contract/endpoints/documents';
import { inject } from './inject.ts';

export const documentsApi = inject(documentEndpoints);
