import { statementEndpoints } from '@zubrell/contract/endpoints/statements';
import { inject } from './inject.ts';

export const statementsApi = inject(statementEndpoints);
