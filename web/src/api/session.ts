import { sessionEndpoints } from '@zubrell/contract/endpoints/session';
import { inject } from './inject.ts';

export const sessionApi = inject(sessionEndpoints);
