import { intakeEndpoints } from '@zubrell/contract/endpoints/intake';
import { inject } from './inject.ts';

export const intakeApi = inject(intakeEndpoints);
