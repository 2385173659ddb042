import { taxEndpoints } from '@zubrell/contract/endpoints/tax';
import { inject } from './inject.ts';

export const taxApi = inject(taxEndpoints);
