import { stepEndpoints } from '@zubrell/contract/endpoints/steps';
import { inject } from './inject.ts';

export const stepsApi = inject(stepEndpoints);
