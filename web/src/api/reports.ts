import { reportEndpoints } from '@zubrell/contract/endpoints/reports';
import { inject } from './inject.ts';

export const reportsApi = inject(reportEndpoints);
