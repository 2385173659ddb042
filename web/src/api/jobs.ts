import { jobEndpoints } from '@zubrell/contract/endpoints/jobs';
import { inject } from './inject.ts';

export const jobsApi = inject(jobEndpoints);
