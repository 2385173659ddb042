import { journalEndpoints } from '@zubrell/contract/endpoints/journals';
import { inject } from './inject.ts';

export const journalsApi = inject(journalEndpoints);
