import { lineEndpoints } from '@zubrell/contract/endpoints/lines';
import { inject } from './inject.ts';

export const linesApi = inject(lineEndpoints);
