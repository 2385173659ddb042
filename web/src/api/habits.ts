import { habitEndpoints } from '@zubrell/contract/endpoints/habits';
import { inject } from './inject.ts';

export const habitsApi = inject(habitEndpoints);
