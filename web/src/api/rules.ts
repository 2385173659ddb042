import { ruleEndpoints } from '@zubrell/contract/endpoints/rules';
import { inject } from './inject.ts';

export const rulesApi = inject(ruleEndpoints, {
  tryRule: { keepUnusedDataFor: 5 },
  readRuleFile: { keepUnusedDataFor: 5 },
  ruleFile: { keepUnusedDataFor: 0 },
});
