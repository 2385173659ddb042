import { boardEndpoints } from '@zubrell/contract/endpoints/board';
import { inject } from './inject.ts';

export const boardApi = inject(boardEndpoints);
