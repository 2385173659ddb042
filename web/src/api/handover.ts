import { handoverEndpoints } from '@zubrell/contract/endpoints/handover';
import { inject } from './inject.ts';

export const handoverApi = inject(handoverEndpoints);
