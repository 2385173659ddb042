import { currencyEndpoints } from '@zubrell/contract/endpoints/currencies';
import { inject } from './inject.ts';

export const currenciesApi = inject(currencyEndpoints);
