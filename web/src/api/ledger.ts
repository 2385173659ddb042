import { ledgerEndpoints } from '@zubrell/contract/endpoints/ledger';
import { inject } from './inject.ts';

export const ledgerApi = inject(ledgerEndpoints);
