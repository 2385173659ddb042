import { closingEndpoints } from '@zubrell/contract/endpoints/closing';
import { inject } from './inject.ts';

export const closingApi = inject(closingEndpoints);
