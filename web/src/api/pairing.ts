import { pairingEndpoints } from '@zubrell/contract/endpoints/pairing';
import { inject } from './inject.ts';

export const pairingApi = inject(pairingEndpoints);
