import { peopleEndpoints } from '@zubrell/contract/endpoints/people';
import { inject } from './inject.ts';

export const peopleApi = inject(peopleEndpoints);
